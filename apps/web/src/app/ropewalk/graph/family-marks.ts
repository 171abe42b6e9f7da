/**
 * The engraved mark of each family, by its id: strokes in a square of 14, so that a graph can be read by eye. Ours, drawn for this: a line that begins, knots on it, a
 * bend, a plumb, a tube, a row, a facet, a fork, a rule, a parting of ways.
 */
export const familyMarks: Readonly<Record<string, string>> = {
  lay: 'M1.5 11C4 1.5 9.5 12.5 12.5 3M1.5 11m-1 0a1 1 0 1 0 2 0a1 1 0 1 0-2 0',
  pace: 'M1 7H13M3 5V9M7 5V9M11 5V9',
  shape: 'M2 12.5C2 6.5 6 2.5 12 2.5M2 8V12.5M8 2.5H12',
  aim: 'M1 11.5H13M7 11.5V2.5M4.5 5L7 2.5L9.5 5',
  skin: 'M4 3H10.5M4 11H10.5M4 3A2 4 0 0 0 4 11A2 4 0 0 0 4 3M10.5 3A2 4 0 0 1 10.5 11',
  place: 'M1 11.5H13M2 8.5H4.5V11.5M5.8 8.5H8.3V11.5M9.6 8.5H12.1V11.5M2 8.5V11.5M5.8 8.5V11.5M9.6 8.5V11.5',
  mesh: 'M7 2L13 11.5H1ZM7 2L8.5 11.5M4 6.7L8.2 9.5',
  grow: 'M7 13V7.5M7 7.5L3 3M7 9.5L11.5 5M3 3V5.5M3 3H5.2',
  gauge: 'M1 9.5H13V12H1ZM3 9.5V7.5M6 9.5V6M9 9.5V7.5M12 9.5V6',
  flow: 'M1 7H5L8 3.5H13M5 7L8 10.5H13',
};
