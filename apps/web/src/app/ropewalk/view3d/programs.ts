import type { Material } from 'three';

/** Most programs that are kept for materials to come. */
const mostKept = 48;

/** What three.js knows of a material: its programs by what they were made from. */
interface Known {
  get(material: Material): unknown;
}

/**
 * Keeps what the graphics have compiled while materials come and go. A program goes with the last material that uses it, and to compile it again holds software up for
 * some tens of milliseconds; so of each program one material that is done with is kept instead of being ended.
 */
export class Programs {
  /** By program, the least lately wanted first. */
  private readonly kept = new Map<string, Material>();

  constructor(private readonly known: Known) {}

  /** Ends a material, or keeps it for its programs. */
  readonly release = (material: Material): void => {
    const { programs } = this.known.get(material) as { readonly programs?: ReadonlyMap<string, unknown> };
    const own = [...(programs?.keys() ?? [])];
    const alone = own.filter((program) => !this.kept.has(program));
    for (const program of own) {
      const keeper = this.kept.get(program) ?? material;
      this.kept.delete(program);
      this.kept.set(program, keeper);
    }
    if (!alone.length) material.dispose();
    while (this.kept.size > mostKept) this.drop(this.kept.keys().next().value!);
  };

  dispose(): void {
    for (const program of [...this.kept.keys()]) this.drop(program);
  }

  /** A program goes, and its keeper where it keeps no other. */
  private drop(program: string): void {
    const keeper = this.kept.get(program)!;
    this.kept.delete(program);
    if (![...this.kept.values()].includes(keeper)) keeper.dispose();
  }
}
