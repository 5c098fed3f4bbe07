import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import type { Calendar } from '@bluestem/core/calendar'
import type { PeopleAnswer, PersonAnswer } from '@bluestem/core/people'
import { call, get } from '../api/http.ts'
import type { CountedProject, Team } from '../api/types.ts'
import type { Component, Label, Template } from './types.ts'
import { useVocabulary } from '../api/vocabulary.store.ts'
import { useSession } from '../app/session.store.ts'
import { useNotes } from '../parts/notes.store.ts'

/** What is defined beside the document and changes at once: labels, components, templates, calendars, teams, projects. */
export const useLiving = defineStore('living', () => {
  const notes = useNotes()
  const session = useSession()
  const labels = shallowRef<readonly Label[]>([])
  const components = shallowRef<readonly Component[]>([])
  const templates = shallowRef<readonly Template[]>([])
  const calendars = shallowRef<readonly Calendar[]>([])
  const teams = shallowRef<readonly Team[]>([])
  const projects = shallowRef<readonly CountedProject[]>([])
  const people = shallowRef<readonly PersonAnswer[]>([])
  const loaded = ref(false)
  const projectTitle = computed(() => new Map(projects.value.map((one) => [one.id, one.title])))

  /** whether one looks after a project: its components, its labels, its templates */
  const keeps = (project: string | null): boolean =>
    session.mayDefine ||
    (project !== null &&
      session.mayEdit &&
      (projects.value
        .find((one) => one.id === project)
        ?.keepers.includes(session.session?.person.id ?? '') ??
        false))
  const keptProjects = computed(() => projects.value.filter((one) => keeps(one.id)))

  /** The names of people, in the order of all. */
  const namesOf = (ids: readonly string[]): string =>
    people.value
      .filter((one) => ids.includes(one.id))
      .map((one) => one.name)
      .join(', ')

  async function load(): Promise<void> {
    const [a, b, c, d, e, f, g] = await Promise.all([
      get<{ labels: Label[] }>('/labels'),
      get<{ components: Component[] }>('/components'),
      get<{ templates: Template[] }>('/templates'),
      get<{ calendars: Calendar[] }>('/calendars'),
      get<{ projects: CountedProject[] }>('/projects'),
      get<PeopleAnswer>('/people'),
      get<{ teams: Team[] }>('/teams'),
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

  /** Changes something living, then shows it as it is now. @throws ApiProblem where it is refused */
  async function send<T>(
    method: 'POST' | 'PATCH' | 'DELETE',
    path: string,
    body?: unknown,
    version?: number,
  ): Promise<T> {
    const headers: Readonly<Record<string, string>> =
      version === undefined ? {} : { 'If-Match': `"${version}"` }
    const { body: answer } = await call<T>(method, path, body, headers)
    await Promise.all([load(), useVocabulary().load()])
    return answer
  }

  /** The same from outside a form: a refusal is told in a note. @returns what was answered, undefined when it was refused */
  async function change<T>(...given: Parameters<typeof send>): Promise<T | undefined> {
    let answer: T | undefined
    await notes.attempt(async () => {
      answer = (await send<T>(...given)) ?? ({} as T)
    })
    return answer
  }

  return {
    labels,
    components,
    templates,
    calendars,
    teams,
    projects,
    people,
    loaded,
    projectTitle,
    keeps,
    keptProjects,
    namesOf,
    load,
    send,
    change,
  }
})
