import type { Signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import type { AbstractControl } from '@angular/forms';
import { map } from 'rxjs';

/** What a form holds, as a signal. To be called where a component is made. */
export const formValues = <T>(form: AbstractControl<unknown, T>): Signal<T> =>
  toSignal(form.valueChanges.pipe(map(() => form.getRawValue())), { initialValue: form.getRawValue() });
