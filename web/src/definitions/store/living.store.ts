import type { TemplateAnswer } from '@bluestem/core/templates'
import type { LabelAnswer } from '@bluestem/core/labels'
import type { ComponentAnswer } from '@bluestem/core/components'
import type { TeamAnswer } from '@bluestem/core/teams'
import type { ProjectAnswer } from '@bluestem/core/projects'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import type { Calendar } from '@bluestem/core/calendar'
import type { PersonAnswer } from '@bluestem/core/people'
import type { AnswerOf, Route } from '@bluestem/core/contract'
import { call, type RequestArguments } from '../../api/http.ts'
import { useVocabulary } from '../../api/vocabulary.store.ts'
import { useSession } from '../../session/session.store.ts'
import { useNotes } from '../../parts/notes.store.ts'

/** Everything that is defined beside the document, as it was last read. */
function useLists() {
  const labels = shallowRef<readonly LabelAnswer[]>([])
  const components = shallowRef<readonly ComponentAnswer[]>([])
  const templates = shallowRef<readonly TemplateAnswer[]>([])
  const calendars = shallowRef<readonly Calendar[]>([])
  const teams = shallowRef<readonly TeamAnswer[]>([])
  const projects = shallowRef<readonly ProjectAnswer[]>([])
  const people = shallowRef<readonly PersonAnswer[]>([])
  const loaded = ref(false)

  async function load(): Promise<void> {
    const [a, b, c, d, e, f, g] = await Promise.all([
      call('GET /labels'),
      call('GET /components'),
      call('GET /templates'),
      call('GET /calendars'),
      call('GET /projects'),
      call('GET /people'),
      call('GET /teams'),
    ])
    labels.value = a.labels
    components.value = b.components
    templates.value = c.templates
    calendars.value = d.calendars
    projects.value = e.projects
    people.value = f.people
    teams.value = g.teams
    loaded.value = true
  }

  return { labels, components, templates, calendars, teams, projects, people, loaded, load }
}

/** What is defined beside the document and changes at once: labels, components, templates, calendars, teams, projects. */
export const useLiving = defineStore('living', () => {
  const notes = useNotes()
  const session = useSession()
  const lists = useLists()
  const { projects, people } = lists
  const projectTitle = computed(
    () => new Map(projects.value.map((project) => [project.id, project.title])),
  )

  /** whether one looks after a project: its components, its labels, its templates */
  const keeps = (project: string | null): boolean =>
    session.mayDefine ||
    (project !== null &&
      session.mayEdit &&
      (projects.value
        .find((entry) => entry.id === project)
        ?.keepers.includes(session.session?.person.id ?? '') ??
        false))
  const keptProjects = computed(() => projects.value.filter((project) => keeps(project.id)))

  /** The names of people, in the order of all. */
  const namesOf = (ids: readonly string[]): string =>
    people.value
      .filter((person) => ids.includes(person.id))
      .map((person) => person.name)
      .join(', ')

  /** Changes something living, then shows it as it is now. @throws ApiProblem where it is refused */
  async function send<const Of extends Route>(
    route: Of,
    ...request: RequestArguments<Of>
  ): Promise<AnswerOf<Of>> {
    const answer = await call(route, ...request)
    await Promise.all([lists.load(), useVocabulary().load()])
    return answer
  }

  /** The same from outside a form: a refusal is told in a note. @returns what was answered, undefined when it was refused */
  async function change<const Of extends Route>(
    route: Of,
    ...request: RequestArguments<Of>
  ): Promise<AnswerOf<Of> | undefined> {
    let answer: AnswerOf<Of> | undefined
    await notes.attempt(async () => {
      answer = await send(route, ...request)
    })
    return answer
  }

  return { ...lists, projectTitle, keeps, keptProjects, namesOf, send, change }
})
