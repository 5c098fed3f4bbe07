/** The nine colours of labels in their order, from 1 on: told apart with any colour vision, and named to speak of them. */
export const labelColours = [
  'indigo',
  'lake',
  'teal',
  'green',
  'olive',
  'ochre',
  'rose',
  'wine',
  'plum',
] as const
