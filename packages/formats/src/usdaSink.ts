import type { Attribute, Attributes, Carrier, Material } from '@filaxis/core';
import { numberText, TextSink } from './textSink.js';
import type { Out } from './writeOptions.js';

/** A name that the format allows: letters, digits and underlines, not beginning with a digit. */
const identifier = (name: string): string => name.replace(/[^A-Za-z0-9_]/g, '_').replace(/^(?=\d)/, '_') || '_';

/** How values lie on a prim: one for all, for each face, vertex or corner; by numbers where several corners have the same. */
export interface Interpolation {
  readonly interpolation: 'constant' | 'uniform' | 'vertex' | 'varying' | 'faceVarying';
  readonly indices?: Uint32Array;
}

const [open, close] = [40, 41];

/** Attributes that are written in ways of their own, or mean nothing outside. */
const notByName = /^(normal|tangent|uv[2-9]?|part|material|colour|handleIn|handleOut|origin)$/;

/** Writes prims and their properties as USD text, indented by how deep they are. */
export class UsdaSink {
  private readonly sink: TextSink;
  private depth = 0;
  /** The name of the prim that everything is in. */
  readonly root: string;
  /** Materials that prims are bound to, in the order of their numbers. */
  readonly materials: Material[] = [];

  constructor(out: Out, name: string) {
    this.sink = new TextSink(out);
    this.root = identifier(name);
  }

  readonly number = numberText;
  readonly name = identifier;

  lines(...lines: string[]): void {
    for (const line of lines) this.sink.line(this.indent + line);
  }

  /** A prim with what stands in it; `about` are lines of its own metadata. */
  block(head: string, content: () => void, ...about: string[]): void {
    this.begin(head, ...about);
    content();
    this.close();
  }

  /** The beginning of a prim whose contents follow, until it is closed. */
  begin(head: string, ...about: string[]): void {
    if (about.length) {
      this.lines(`${head} (`);
      this.depth++;
      this.lines(...about);
      this.depth--;
      this.lines(')');
    } else this.lines(head);
    this.lines('{');
    this.depth++;
  }

  close(): void {
    this.depth--;
    this.lines('}');
  }

  /** An array of whole numbers. */
  numbers(property: string, data: ArrayLike<number>): void {
    this.array(property, data.length, (i) => this.sink.whole(data[i]));
  }

  /** An array of numbers, or of tuples of `size` of them. */
  tuples(property: string, data: ArrayLike<number>, size: number, interpolation?: Interpolation['interpolation']): void {
    const { sink } = this;
    const item = (i: number): void => {
      if (size === 1) return sink.number(data[i]);
      sink.sign(open);
      for (let k = 0; k < size; k++) {
        if (k) sink.text(', ');
        sink.number(data[i * size + k]);
      }
      sink.sign(close);
    };
    this.array(property, data.length / size, item, interpolation && `interpolation = "${interpolation}"`);
  }

  private array(property: string, count: number, item: (i: number) => void, about?: string): void {
    this.sink.text(`${this.indent}${property} = [`);
    for (let i = 0; i < count; i++) {
      if (i) this.sink.text(', ');
      item(i);
    }
    this.sink.line(about ? '] (' : ']');
    if (about) this.lines(`    ${about}`, ')');
  }

  /** A value, by its name in the file and what its numbers mean there. */
  primvar(type: string, name: string, { size, data }: Pick<Attribute, 'size' | 'data'>, { interpolation, indices }: Interpolation): void {
    this.tuples(`${type}[] primvars:${name}`, data, size, interpolation);
    if (indices) this.numbers(`int[] primvars:${name}:indices`, indices);
  }

  /** Values by their own names. `lie`: how those of a carrier lie; null: they have no place here. */
  values(attributes: Attributes, lie: (carrier: Carrier, attribute: Attribute) => Interpolation | null): void {
    for (const [name, attribute] of attributes) {
      const how = notByName.test(name) || attribute.size > 4 ? null : lie(attribute.carrier, attribute);
      if (how) this.primvar(attribute.size === 1 ? 'float' : `float${attribute.size}`, name, attribute, how);
    }
  }

  /** Where a prim is moved to, in 64 bits. */
  place(origin: readonly number[]): void {
    if (origin.every((value) => value === 0)) return;
    this.lines(`double3 xformOp:translate = (${origin.join(', ')})`, 'uniform token[] xformOpOrder = ["xformOp:translate"]');
  }

  /** A matrix for row vectors, as the format has them: its rows are the columns of ours. */
  matrix(m: ArrayLike<number>, origin: readonly number[]): void {
    const rows = [0, 4, 8, 12].map((at) => `(${[0, 1, 2, 3].map((k) => (at === 12 && k < 3 && origin[k] ? String(m[at + k] + origin[k]) : this.number(m[at + k]))).join(', ')})`); // prettier-ignore
    this.lines(`matrix4d xformOp:transform = ( ${rows.join(', ')} )`, 'uniform token[] xformOpOrder = ["xformOp:transform"]');
  }

  materialName(at: number): string {
    return `${identifier(this.materials[at].name)}_${at}`;
  }

  end(): void {
    this.sink.end();
  }

  private get indent(): string {
    return '    '.repeat(this.depth);
  }
}
