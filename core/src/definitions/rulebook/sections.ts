import { elementAt } from '../../known/index.ts'
import type { FormField } from './rulebook.ts'

/** Fields of a form under one heading. The first section has none. */
export interface FormSection {
  readonly title: string
  readonly fields: readonly FormField[]
}

/** A form by its headings, in the order in which they first appear; the section without one comes first, also where it is empty. */
export function sectionsOf(fields: readonly FormField[]): FormSection[] {
  const titles = [...new Set(['', ...fields.map(({ section }) => section)])]
  return titles.map((title) => ({
    title,
    fields: fields.filter(({ section }) => section === title),
  }))
}

/** The fields of sections in order, each with the heading it stands under. A heading without fields leaves nothing behind. */
export const fieldsIn = (sections: readonly FormSection[]): FormField[] =>
  sections.flatMap(({ title, fields }) => fields.map((field) => ({ ...field, section: title })))

const withFields = (
  sections: readonly FormSection[],
  at: number,
  fields: readonly FormField[],
): FormSection[] =>
  sections.map((section, place) => (place === at ? { ...section, fields } : section))

/** Moves a field one place up or down; at an end of its section it goes over to the next one. */
export function moveField(
  sections: readonly FormSection[],
  field: string,
  by: -1 | 1,
): readonly FormSection[] {
  const at = sections.findIndex(({ fields }) =>
    fields.some((formField) => formField.field === field),
  )
  const own = sections[at]
  if (!own) return sections
  const place = own.fields.findIndex((formField) => formField.field === field)
  const moved = elementAt(own.fields, place)
  const others = own.fields.filter((field) => field !== moved)
  const within = place + by
  if (within >= 0 && within < own.fields.length)
    return withFields(sections, at, others.toSpliced(within, 0, moved))
  const next = sections[at + by]
  if (!next) return sections
  const taken = by < 0 ? [...next.fields, moved] : [moved, ...next.fields]
  return withFields(withFields(sections, at, others), at + by, taken)
}

/** Moves a heading with all its fields one place up or down; the section without a heading stays the first. */
export function moveSection(
  sections: readonly FormSection[],
  at: number,
  by: -1 | 1,
): readonly FormSection[] {
  const to = at + by
  const moved = sections[at]
  if (!moved || at === 0 || to < 1 || to >= sections.length) return sections
  return sections.toSpliced(at, 1).toSpliced(to, 0, moved)
}

/** Gives a section another heading. One that is there already takes the fields in; none at all lets them stand in the section above. */
export function renameSection(
  sections: readonly FormSection[],
  at: number,
  title: string,
): readonly FormSection[] {
  const own = sections[at]
  if (!own || at === 0 || own.title === title) return sections
  const into = title === '' ? at - 1 : sections.findIndex((section) => section.title === title)
  if (into < 0) return sections.with(at, { ...own, title })
  const joined = [...elementAt(sections, into).fields, ...own.fields]
  return withFields(sections, into, joined).toSpliced(at, 1)
}

/** Begins a section at the end; one whose heading is there already is not begun again. */
export const addSection = (
  sections: readonly FormSection[],
  title: string,
): readonly FormSection[] =>
  title === '' || sections.some((section) => section.title === title)
    ? sections
    : [...sections, { title, fields: [] }]
