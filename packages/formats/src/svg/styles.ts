/** The properties that matter here: whether something is drawn, and how it is moved. */
const properties = ['display', 'visibility', 'transform', 'transform-origin'] as const;
type Property = (typeof properties)[number];
export type Style = Partial<Record<Property, string>>;

interface Rule {
  readonly tag: string;
  readonly id: string;
  readonly classes: readonly string[];
  /** Ids, classes, tags: which of two rules counts. */
  readonly weight: number;
  readonly style: Style;
}

/** Declarations such as `display:none; transform:scale(2)`. */
function declarations(text: string): Style {
  const style: Style = {};
  for (const part of text.split(';')) {
    const colon = part.indexOf(':');
    const name = part.slice(0, Math.max(0, colon)).trim().toLowerCase() as Property;
    if (properties.includes(name))
      style[name] = part
        .slice(colon + 1)
        .replace('!important', '')
        .trim();
  }
  return style;
}

/** The text without what lies between `open` and `close`. */
function without(text: string, open: string, close: string): string {
  let out = '';
  let at = 0;
  for (;;) {
    const from = text.indexOf(open, at);
    if (from < 0) return out + text.slice(at);
    out += text.slice(at, from);
    const to = text.indexOf(close, from + open.length);
    if (to < 0) return out;
    at = to + close.length;
  }
}

/** Style sheets of a drawing: rules by tag, class and id, which is what drawing programs write. Rules by place in the tree or state are left out. */
export class StyleSheets {
  private readonly rules: Rule[] = [];

  add(sheet: string): void {
    let text = without(sheet, '/*', '*/').replace('<![CDATA[', '').replace(']]>', '');
    for (;;) {
      const open = text.indexOf('{');
      if (open < 0) return;
      const selectors = text.slice(0, open).trim();
      let close = text.indexOf('}', open);
      if (close < 0) return;
      if (selectors.startsWith('@')) {
        // A block within a block: media queries, key frames, fonts. What they say holds at times only.
        for (let depth = 1, at = open + 1; at < text.length; at++) {
          if (text[at] === '{') depth++;
          else if (text[at] === '}' && --depth === 0) {
            close = at;
            break;
          }
        }
      } else {
        const style = declarations(text.slice(open + 1, close));
        if (Object.keys(style).length) for (const selector of selectors.split(',')) this.addRule(selector.trim(), style);
      }
      text = text.slice(close + 1);
    }
  }

  private addRule(selector: string, style: Style): void {
    const match = /^([\w-]+|\*)?((?:[.#][\w-]+)*)$/.exec(selector);
    if (!match || !selector) return;
    const [, tag = '', rest] = match;
    const parts = rest.split(/(?=[.#])/).filter(Boolean);
    const ids = parts.filter((part) => part.startsWith('#')).map((part) => part.slice(1));
    const classes = parts.filter((part) => part.startsWith('.')).map((part) => part.slice(1));
    if (ids.length > 1) return;
    const own = tag === '*' ? '' : tag;
    this.rules.push({ tag: own, id: ids[0] ?? '', classes, weight: ids.length * 10_000 + classes.length * 100 + (own ? 1 : 0), style });
  }

  /** What holds for an element: its attributes, then the sheets' rules by their weight, then its own `style`. */
  of(tag: string, attributes: Readonly<Record<string, string>>): Style {
    const style: Style = {};
    for (const name of properties) if (attributes[name] !== undefined) style[name] = attributes[name];
    if (this.rules.length) {
      const classes = (attributes['class'] ?? '').split(/\s+/);
      const holding = this.rules.filter((rule) => (!rule.tag || rule.tag === tag) && (!rule.id || rule.id === attributes['id']) && rule.classes.every((name) => classes.includes(name))); // prettier-ignore
      for (const rule of [...holding].sort((a, b) => a.weight - b.weight)) Object.assign(style, rule.style);
    }
    return Object.assign(style, declarations(attributes['style'] ?? ''));
  }
}
