/** Labels: title, family, colour of the set. Three of them mean the same, and no screen has said so yet. */
export const labels: readonly {
  readonly id: string
  readonly title: string
  readonly family: string | null
  readonly colour: number
}[] = [
  ...['car deck', 'upper', 'saloon', 'hull', 'engine room'].map((title, index) => ({
    id: `la_deck${index + 1}`,
    title,
    family: 'fa_deck',
    colour: index + 2,
  })),
  ...['needed', 'seen'].map((title, index) => ({
    id: `la_proof${index + 1}`,
    title,
    family: 'fa_proof',
    colour: index + 6,
  })),
  ...['hydraulic', 'electric', 'ropes', 'pumps', 'lights', 'radio'].map((title, index) => ({
    id: `la_gear${index + 1}`,
    title,
    family: 'fa_gear',
    colour: (index % 9) + 1,
  })),
  ...[
    'ramp',
    'Ramps',
    'ramp-gear',
    'winter refit',
    'before summer',
    'guests aboard',
    'second-hand part',
    'photo taken',
  ].map((title, index) => ({
    id: `la_free${index + 1}`,
    title,
    family: null,
    colour: ((index * 2) % 9) + 1,
  })),
]

export const components: readonly {
  readonly id: string
  readonly project: string
  readonly title: string
}[] = [
  ...['MV Petrel', 'MV Curlew', 'MV Dunlin', 'MV Avocet', 'MV Plover', 'Shore crane'].map(
    (title, index) => ({ id: `co_yard${index + 1}`, project: 'YARD', title }),
  ),
  ...['North Pier', 'South Pier', 'Mill Quay', 'Reed Bay', 'Waiting rooms', 'Gangways'].map(
    (title, index) => ({ id: `co_pier${index + 1}`, project: 'PIER', title }),
  ),
  ...['Summer timetable', 'Winter timetable', 'Rosters'].map((title, index) => ({
    id: `co_crew${index + 1}`,
    project: 'CREW',
    title,
  })),
  ...['Ticket app', 'Ticket machines', 'Season passes', 'Boarding scanners'].map(
    (title, index) => ({ id: `co_fare${index + 1}`, project: 'FARE', title }),
  ),
  ...['Fire', 'Life-saving', 'Passengers', 'Environment'].map((title, index) => ({
    id: `co_safe${index + 1}`,
    project: 'SAFE',
    title,
  })),
]
