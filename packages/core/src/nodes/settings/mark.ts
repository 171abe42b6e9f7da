/** The name of a selection. */
export const markName = {
  kind: 'text',
  label: 'Name',
  help: 'What later nodes call the mark.',
  default: 'mark',
  pattern: /^[a-z][A-Za-z0-9_]*$/,
  accepts: 'a name such as mark: a small letter, then letters, digits and _',
} as const;
