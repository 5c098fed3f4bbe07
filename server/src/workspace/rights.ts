import { elementAt } from '@bluestem/core/known'
import type { World } from './world.ts'
import type { Person } from './living.ts'
import { forbidden } from '../problems/problem.ts'
import type { ActorContext } from './actor.ts'

/** The rulebooks a person keeps. */
export const rulebooksKeptBy = (world: World, person: Person): string[] =>
  [...world.rulebookKeepers]
    .filter(([, keepers]) => keepers.has(person.number))
    .map(([rulebook]) => rulebook)

/** Whether a person may change what stands at a path: administrators everything, keepers what is inside the rulebooks they keep. Viewers change nothing, whatever they keep. */
export function mayDefine(
  { world, person }: Pick<ActorContext, 'world' | 'person'>,
  path: readonly string[],
): boolean {
  if (person.role === 'administrator') return true
  return (
    person.role === 'member' &&
    path[0] === 'rulebooks' &&
    path.length > 2 &&
    path[2] !== 'extends' &&
    rulebooksKeptBy(world, person).includes(elementAt(path, 1))
  )
}

/** @throws Problem 403 that names the first part the person may not change */
export function judgeRight(actor: ActorContext, paths: readonly (readonly string[])[]): void {
  const beyond = paths.find((path) => !mayDefine(actor, path))
  if (beyond)
    throw forbidden(
      `Only administrators change ${beyond[0] === 'rulebooks' ? 'this rulebook; its keepers may change its entries' : `${beyond[0]}, which all rulebooks share`}. Propose it instead: a proposal waits for those who may.`,
    )
}

/** Whoever may work on drafts at all: administrators, and members who keep a rulebook. */
export function judgeDrafting(actor: ActorContext): void {
  const { world, person } = actor
  if (
    person.role === 'administrator' ||
    (person.role === 'member' && rulebooksKeptBy(world, person).length > 0)
  )
    return
  throw forbidden(
    'Only administrators and keepers of a rulebook work on drafts. Propose the change instead.',
  )
}

/** Whether a person keeps a project: its components, labels and templates. */
export const isKeeperOfProject = (world: World, person: Person, project: string): boolean =>
  person.role === 'administrator' ||
  (person.role === 'member' &&
    (world.projects.find((entry) => entry.id === project)?.keepers.has(person.number) ?? false))
