/** An interrupt ends it with 130 (see bin). */
export const exitCodes = { done: 0, warnings: 1, failed: 2 } as const;

/** The command cannot be carried out; the message is the one line that is printed. */
export class Refused extends Error {
  override name = 'Refused';
}
