/** What the turtle does at each symbol (Prusinkiewicz & Lindenmayer 1990, but for ~ and G; angles in degrees). */
export const turtleSymbols: ReadonlyMap<string, string> = new Map([
  ['F', 'goes forward and draws: F, or F(metres)'],
  ['G', 'goes forward and draws, as F does'],
  ['f', 'goes forward without drawing: f, or f(metres)'],
  ['+', 'turns left: +, or +(degrees)'],
  ['-', 'turns right: -, or -(degrees)'],
  ['&', 'pitches down: &, or &(degrees)'],
  ['^', 'pitches up: ^, or ^(degrees)'],
  ['\\', 'rolls left: \\, or \\(degrees)'],
  ['/', 'rolls right: /, or /(degrees)'],
  ['|', 'turns round'],
  ['$', 'rolls until it stands upright'],
  ['[', 'begins a branch'],
  [']', 'ends a branch: back to where it began'],
  ['!', 'sets the width: !(metres); alone thinner by the taper'],
  ['~', 'a place for a leaf: ~, or ~(size)'],
  ['%', 'cuts off the rest of the branch'],
]);
