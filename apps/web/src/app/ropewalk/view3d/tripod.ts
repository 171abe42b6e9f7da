import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { Vector3, type Camera } from 'three';

export type AxisName = 'x' | 'y' | 'z';

/** An arm of the tripod as it is seen: its end, and whether it comes towards the eye. */
export interface Arm {
  readonly name: AxisName;
  readonly x: number;
  readonly y: number;
  readonly near: boolean;
}

const directions = { x: new Vector3(1, 0, 0), y: new Vector3(0, 1, 0), z: new Vector3(0, 0, 1) } as const;

/** The axes as a camera sees them. */
export function armsOf(camera: Camera): Arm[] {
  const inverse = camera.quaternion.clone().invert();
  return (Object.keys(directions) as AxisName[]).map((name) => {
    const v = directions[name].clone().applyQuaternion(inverse);
    return { name, x: Math.round(v.x * 240) / 10, y: Math.round(-v.y * 240) / 10, near: v.z > 0 };
  });
}

/** Three arms that show which way the axes run; a click on one looks along it, and once more from its other side. */
@Component({
  selector: 'fx-tripod',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg width="72" height="72" viewBox="-36 -36 72 72" role="group" aria-label="Axes; click one to look along it">
      @for (arm of axes(); track arm.name) {
        <g
          [attr.class]="'axis ' + arm.name"
          role="button"
          tabindex="0"
          [attr.aria-label]="'Look along ' + arm.name"
          (click)="along.emit(arm.name)"
          (keydown.enter)="along.emit(arm.name)"
        >
          <line x1="0" y1="0" [attr.x2]="arm.x" [attr.y2]="arm.y" [attr.opacity]="arm.near ? 1 : 0.55" />
          <text [attr.x]="arm.x * 1.28" [attr.y]="arm.y * 1.28 + 4">{{ arm.name }}</text>
          <circle [attr.cx]="arm.x" [attr.cy]="arm.y" r="10" fill="transparent" />
        </g>
      }
    </svg>
  `,
  styles: `
    .axis {
      cursor: pointer;
    }
    .axis line {
      stroke-width: 2.4;
    }
    .axis text {
      font: 12px var(--mono);
      text-anchor: middle;
      fill: var(--indigo);
      stroke: none;
    }
    .axis circle {
      fill: transparent;
      stroke: none;
    }
    .axis.x {
      stroke: var(--madder);
    }
    .axis.y {
      stroke: var(--verdigris);
    }
    .axis.z {
      stroke: var(--woad);
    }
  `,
})
export class Tripod {
  readonly axes = input.required<readonly Arm[]>();
  readonly along = output<AxisName>();
}
