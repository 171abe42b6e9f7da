/** A step of a script that cannot go on; the message says what failed and what to do. */
export class Stopped extends Error {
  name = 'Stopped';
}
