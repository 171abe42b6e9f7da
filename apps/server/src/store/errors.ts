/** What was asked for is not there. */
export class NotFound extends Error {
  override name = 'NotFound';
}

/** Somebody else saved meanwhile; nothing was changed. */
export class Conflict extends Error {
  override name = 'Conflict';
  constructor(
    message: string,
    readonly current: number,
  ) {
    super(message);
  }
}

/** The request cannot be used; `errors` name the places. */
export class BadRequest extends Error {
  override name = 'BadRequest';
  constructor(
    message: string,
    readonly errors: readonly { pointer: string; message: string }[] = [],
  ) {
    super(message);
  }
}

/** The request may not be made from where it comes, or in the way it is. */
export class Refused extends Error {
  override name = 'Refused';
  constructor(
    readonly status: 401 | 403 | 421 | 429,
    readonly title: string,
    message: string,
  ) {
    super(message);
  }
}
