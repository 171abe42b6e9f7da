import { TestBed } from '@angular/core/testing';
import { describe, expect, it } from 'vitest';
import { NumberField } from '../../src/app/shared/number-field';

describe('number field', () => {
  it('shows its value', async () => {
    const fixture = TestBed.createComponent(NumberField);
    fixture.componentRef.setInput('value', 1.25);
    fixture.componentRef.setInput('label', 'Radius');
    await fixture.whenStable();
    expect(fixture.nativeElement.querySelector('input').value).toBe('1.25');
  });
});
