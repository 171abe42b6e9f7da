/** The attributes of a list with commas between them. */
export const namesIn = (list: unknown): string[] =>
  String(list)
    .split(',')
    .map((name) => name.trim())
    .filter((name) => name);
