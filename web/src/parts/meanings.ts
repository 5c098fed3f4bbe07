/** What the words mean that a practitioner may not know from elsewhere, as the guide has them. */
export const meanings = {
  phase:
    'How far work is, in words that mean the same in every flow: idle, active, done, dropped. Each status is in one phase for ever, so figures of different teams can be added.',
  tier: 'How large a type is, from 0, the smallest, to 4. What stands above something is always of a higher tier.',
  queue:
    'A status in which work lies still and waits. Time in queues is counted apart from time in which somebody works.',
  remit: 'A query that says which items are a team’s. Its clocks run by the hours of that team.',
  urgency:
    'A number from 1, the most urgent, to 5, that every priority has. It means the same for everybody, whatever the priority is called.',
  rung: 'A priority’s place on a ladder. Several ladders may hold the same priority.',
  ladder:
    'An ordered choice of priorities with a usual one. A rulebook names the ladder its projects use.',
  edition:
    'The definitions as they stood from one publishing to the next. Every edition is kept, numbered, and can be gone back to.',
  impact:
    'What a draft would touch before it is published: items, forms, queries, views, widgets, templates.',
  replay:
    'What a draft would have done to the moves that people really made: which it would have refused, and why.',
  keeper:
    'Who looks after something: a rulebook, a project, a component. Keepers may change what they keep.',
  elsewhere: 'Where a board shows the items whose status has no column, so that none is hidden.',
  rulebook:
    'What projects follow: types, forms, flows, a ladder, label families, links. One that extends another holds only what it adds, changes or leaves out.',
} as const

export type Word = keyof typeof meanings
