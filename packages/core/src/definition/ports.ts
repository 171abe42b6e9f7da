/** Ports that many nodes have. */
export const curvesIn = { name: 'curves', kinds: ['curves'] } as const;
export const curvesOut = { name: 'curves', kind: 'curves' } as const;
export const pointsIn = { name: 'points', kinds: ['points'] } as const;
export const pointsOut = { name: 'points', kind: 'points' } as const;
export const meshIn = { name: 'mesh', kinds: ['mesh'] } as const;
export const meshOut = { name: 'mesh', kind: 'mesh' } as const;
export const copiesOut = { name: 'copies', kind: 'copies' } as const;
export const numberOut = { name: 'number', kind: 'number' } as const;
/** Takes what comes, and gives the same kind. */
export const anyIn = { name: 'any', kinds: ['any'] } as const;
export const anyOut = { name: 'any', kind: 'any', follows: 'any' } as const;
/** What is measured to or taken from. */
export const toIn = { name: 'to', kinds: ['any'] } as const;
/** A body for curves to lie on, run round and be cut from. */
export const bodyIn = { name: 'body', kinds: ['mesh'] } as const;
