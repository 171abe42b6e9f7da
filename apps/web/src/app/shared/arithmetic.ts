/**
 * Reads what an artist types into a number field: arithmetic and units, such as `2*15mm` or `360/7`. Numbers with a unit are turned into the
 * field's base unit (metres, degrees, seconds); without one they are taken as they are.
 */

/** Factor of each unit to the base unit of its kind. */
const units: Readonly<Record<string, number>> = {
  mm: 0.001,
  cm: 0.01,
  dm: 0.1,
  m: 1,
  km: 1000,
  um: 1e-6,
  µm: 1e-6,
  deg: 1,
  '°': 1,
  rad: 180 / Math.PI,
  turn: 360,
  turns: 360,
  '%': 0.01,
  s: 1,
  ms: 0.001,
};

type Token = { kind: 'number'; value: number } | { kind: 'sign'; text: string };

function tokens(text: string): Token[] | null {
  const list: Token[] = [];
  const pattern = /\s*(?:(\d+(?:[.,]\d*)?(?:e[+-]?\d+)?|[.,]\d+)\s*([a-zµ°%]+)?|([-+*/^()]))/iy;
  let at = 0;
  const whole = text.trim();
  while (at < whole.length) {
    pattern.lastIndex = at;
    const match = pattern.exec(whole);
    if (!match) return null;
    at = pattern.lastIndex;
    if (match[3]) {
      list.push({ kind: 'sign', text: match[3] });
      continue;
    }
    const factor = match[2] === undefined ? 1 : Object.hasOwn(units, match[2]) ? units[match[2]] : undefined;
    if (factor === undefined) return null;
    list.push({ kind: 'number', value: Number(match[1].replace(',', '.')) * factor });
  }
  return list;
}

/** The value of the text, or null when it is none. */
export function arithmetic(text: string): number | null {
  const list = tokens(text);
  if (!list?.length) return null;
  let at = 0;
  const sign = (...texts: string[]): string | null => {
    const token = list[at];
    if (token?.kind !== 'sign' || !texts.includes(token.text)) return null;
    at++;
    return token.text;
  };
  const atom = (): number => {
    if (sign('-')) return -power();
    if (sign('+')) return power();
    if (sign('(')) {
      const inner = sum();
      return sign(')') ? inner : NaN;
    }
    const token = list[at++];
    return token?.kind === 'number' ? token.value : NaN;
  };
  const power = (): number => {
    const base = atom();
    return sign('^') ? base ** power() : base;
  };
  const product = (): number => {
    let value = power();
    for (let op = sign('*', '/'); op; op = sign('*', '/')) value = op === '*' ? value * power() : value / power();
    return value;
  };
  const sum = (): number => {
    let value = product();
    for (let op = sign('+', '-'); op; op = sign('+', '-')) value = op === '+' ? value + product() : value - product();
    return value;
  };
  const value = sum();
  return at === list.length && Number.isFinite(value) ? value : null;
}
