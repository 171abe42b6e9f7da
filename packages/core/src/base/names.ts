/** Names made distinct: a repeated one gets the first free number, counted from 2. `taken`: names to avoid besides. */
export function distinctNames(names: readonly string[], between = ' ', taken: Iterable<string> = []): string[] {
  const used = new Set(taken);
  return names.map((name) => {
    let own = name;
    for (let n = 2; used.has(own); n++) own = `${name}${between}${n}`;
    used.add(own);
    return own;
  });
}
