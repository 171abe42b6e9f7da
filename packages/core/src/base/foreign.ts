/** Whether a program of WebAssembly broke off: what it keeps in its memory cannot be relied on any more. */
export const brokeOff = (error: unknown): boolean => error instanceof WebAssembly.RuntimeError;

/** A part of the program that is loaded when it is first asked for, and anew after it broke off. */
export class ForeignPart<T> {
  private loading: Promise<T> | null = null;

  constructor(private readonly load: () => Promise<T>) {}

  /**
   * What a step makes with it.
   * @throws Error in plain words when it cannot be loaded or broke off, which is most often for want of memory; and what the step throws.
   */
  async use<R>(step: (part: T) => R): Promise<R> {
    this.loading ??= this.load();
    const part = await this.loading.catch((error: Error) => {
      this.loading = null;
      throw new Error(`The part of the program that does this could not be loaded: ${error.message}`);
    });
    try {
      return step(part);
    } catch (error) {
      if (!brokeOff(error)) throw error;
      this.loading = null;
      throw new Error(`The part of the program that does this broke off, most likely for want of memory (${(error as Error).message}). Give it less at once.`);
    }
  }
}
