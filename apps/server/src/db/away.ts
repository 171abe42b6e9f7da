/** Whether an error says that the connection to the database is broken or refused: codes of the system and of PostgreSQL (class 08, 57P01 to 57P03, 53300), or words of the driver that have no code. */
export function isAway(error: unknown): boolean {
  for (let at = error; at instanceof Error; at = at.cause) {
    if (/^(ECONN|EPIPE|ETIMEDOUT|08|57P0[1-3]|53300)/.test(String((at as { code?: unknown }).code))) return true;
    if (/^(Connection terminated|timeout exceeded when trying to connect|Client has encountered a connection error|Cannot use a pool after)/.test(at.message))
      return true;
  }
  return false;
}
