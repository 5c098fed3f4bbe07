import { entryOf } from '@bluestem/core/known'
import { dayOf } from '@bluestem/core/calendar'
import { flowOf } from '@bluestem/core/definitions'
import type { Property, Release, Span } from '@bluestem/core/queries'
import type { ActorContext } from '../workspace/actor.ts'

/** Spans that are not over first, the earliest before the later ones; those of one’s own teams before others. */
function inOrderOfUse<Days extends Span | Release>(
  spans: readonly Days[],
  isMine: (span: Days) => boolean,
  today: string,
): string[] {
  const rank = (span: Days): number => (isMine(span) ? 0 : 1) + ((span.end ?? '') < today ? 2 : 0)
  const from = ({ start, end }: Days): string => start ?? end ?? ''
  return spans
    .toSorted((a, b) => rank(a) - rank(b) || (from(a) < from(b) ? -1 : 1))
    .map(({ id }) => id)
}

/** The choices that a new item of a type may take for a property, the likeliest first; none where only a question can name one. */
export function offeredChoices(
  { world, person, now }: ActorContext,
  property: Property,
  project: string,
  type: string,
): readonly string[] {
  if (property.type.kind !== 'choice' && property.type.kind !== 'array') return []
  const { vocabulary, document, labels, components } = world
  const today = dayOf(now.getTime(), world.zone)
  const mine = new Set(
    world.teams.filter((team) => team.people.has(person.number)).map((team) => team.id),
  )
  const isMine = ({ owner }: Span): boolean => mine.has(owner)
  switch (property.type.domain) {
    case 'status': {
      const flow = flowOf(document, entryOf(document.projects, project), type)
      return flow.statuses
    }
    case 'priority':
      return vocabulary
        .choices('priority')
        .filter(({ id, retired }) => !retired && vocabulary.rungOf(project, id) !== null)
        .map(({ id }) => id)
    case 'person':
      return [person.id]
    case 'label':
      return labels
        .filter((label) => !label.retired && (label.project ?? project) === project)
        .map(({ id }) => id)
    case 'component':
      return components
        .filter((component) => !component.retired && component.project === project)
        .map(({ id }) => id)
    case 'iteration':
      return inOrderOfUse(vocabulary.iterations, isMine, today)
    case 'release':
      return inOrderOfUse(
        vocabulary.releases.filter(({ projects }) => projects.includes(project)),
        () => true,
        today,
      )
    case 'item':
      return []
    default:
      return vocabulary
        .choices(property.type.domain)
        .filter(({ retired }) => !retired)
        .map(({ id }) => id)
  }
}
