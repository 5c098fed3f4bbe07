import { certain } from '../../known/index.ts'

/** The maps of the document that hold definitions with a title and a description. */
export const sections = [
  'types',
  'fields',
  'statuses',
  'priorities',
  'ladders',
  'families',
  'linkKinds',
  'limits',
  'rulebooks',
] as const

export type Section = (typeof sections)[number]

/** The section that a path of the document begins in. @throws {MissingError} where there is no such */
export const sectionAt = ([section]: readonly string[]): Section =>
  certain(
    sections.find((text) => text === section),
    `section ${section}`,
  )

/** What an identity of each section begins with. */
export const prefixes: Record<Section, string> = {
  types: 'ty',
  fields: 'fi',
  statuses: 'st',
  priorities: 'pi',
  ladders: 'ld',
  families: 'fa',
  linkKinds: 'lk',
  limits: 'tl',
  rulebooks: 'rb',
}

/** What one entry of a section is called. */
export const sectionWords: Record<Section, string> = {
  types: 'type',
  fields: 'field',
  statuses: 'status',
  priorities: 'priority',
  ladders: 'ladder',
  families: 'family',
  linkKinds: 'link kind',
  limits: 'time limit',
  rulebooks: 'rulebook',
}
