import { ChangeDetectionStrategy, Component } from '@angular/core';
import { RouterLink } from '@angular/router';
import { elementNames, formulaFunctions } from '@filaxis/core';
import { LiveExample } from './live-example';

interface Example {
  readonly says: string;
  readonly formula: string;
}

/** Everything about formulas on one page, with examples that can be changed and are worked out as they are typed. */
@Component({
  selector: 'fx-formulas',
  imports: [LiveExample, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './formulas.page.html',
  styleUrl: './formulas.page.scss',
})
export class FormulasPage {
  protected readonly examples: readonly Example[] = [
    { says: 'Thinner toward the tip', formula: '0.02*(1-t) + 0.002' },
    { says: 'A bulge every 250 mm', formula: '0.03 + 0.01*max(0, sin(2*pi*s/0.25))' },
    { says: 'Thick ends, like a spliced rope', formula: '0.02 + 0.015*smoothstep(0.85, 1, abs(2*t - 1))' },
    { says: 'Every point a little different, the same each time', formula: '0.02*(1 + 0.3*(random(1) - 0.5))' },
    { says: 'Smooth unevenness that does not repeat', formula: '0.02 + 0.006*noise(s*3, c, 0)' },
    { says: 'Every second curve (as a condition)', formula: 'c % 2 == 0' },
    { says: 'Only above a height, and only the first half', formula: 'y > 0.2 and t < 0.5' },
    { says: 'Three steps', formula: 't < 0.33 ? 0.03 : t < 0.67 ? 0.02 : 0.01' },
  ];
  protected readonly names = Object.entries({
    ...elementNames,
    time: 'seconds of the timeline',
    frameNumber: 'its frame: those seconds by the frames a second',
    pi: '3.14159…',
    e: '2.71828…',
  });
  protected readonly functions = Object.entries(formulaFunctions).map(([name, { least, most, help }]) => ({ name, help, takes: least === most ? least : `${least}–${most}` })); // prettier-ignore
}
