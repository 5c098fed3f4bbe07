export const projects: readonly {
  readonly code: string
  readonly id: string
  readonly title: string
  readonly description: string
  readonly open: boolean
}[] = [
  {
    code: 'YARD',
    id: 'pr_yard',
    title: 'Fleet Yard',
    description: 'Repairs and refits of our vessels.',
    open: true,
  },
  {
    code: 'PIER',
    id: 'pr_pier',
    title: 'Piers and Shore',
    description: 'Piers, waiting rooms, gangways and cranes.',
    open: true,
  },
  {
    code: 'CREW',
    id: 'pr_crew',
    title: 'Crewing and Timetable',
    description: 'Who sails when. Seen by its members only.',
    open: false,
  },
  {
    code: 'FARE',
    id: 'pr_fare',
    title: 'Fares and Passenger Apps',
    description: 'Tickets, machines and apps, in iterations of two weeks.',
    open: true,
  },
  {
    code: 'SAFE',
    id: 'pr_safe',
    title: 'Safety Office',
    description: 'Inspections and findings.',
    open: true,
  },
]
