/** Something wrong with a text in a piece of data: where (JSON Pointer), and what. */
export interface TextFault {
  readonly pointer: string;
  readonly message: string;
}

/** What is wrong with a text, or null: it is well-formed Unicode without NUL and other control characters but tabs and line ends, so that every store and file can hold it. */
export function textFault(text: string): string | null {
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i);
    if (code < 32 ? code !== 9 && code !== 10 && code !== 13 : code === 127)
      return `a text has the control character U+${code.toString(16).toUpperCase().padStart(4, '0')} at place ${i}; take it out.`;
    if (code < 0xd800 || code > 0xdfff) continue;
    const next = text.charCodeAt(i + 1);
    if (code <= 0xdbff && next >= 0xdc00 && next <= 0xdfff) i++;
    else return `a text has half a character (U+${code.toString(16).toUpperCase()}) at place ${i}; take it out.`;
  }
  return null;
}

const token = (key: string): string => key.replaceAll('~', '~0').replaceAll('/', '~1');

/** The first text in data, names of its fields included, that no store could hold; null: all are fine. Looked through without recursion, however deep it is. */
export function faultyText(data: unknown): TextFault | null {
  const waiting: [value: unknown, pointer: string][] = [[data, '']];
  for (let next = waiting.pop(); next; next = waiting.pop()) {
    const [value, pointer] = next;
    if (typeof value === 'string') {
      const message = textFault(value);
      if (message) return { pointer, message };
    } else if (typeof value === 'object' && value !== null)
      for (const [key, inner] of Object.entries(value)) {
        const message = Array.isArray(value) ? null : textFault(key);
        if (message) return { pointer, message: `the name of a field: ${message}` };
        if (typeof inner !== 'number') waiting.push([inner, `${pointer}/${token(key)}`]);
      }
  }
  return null;
}
