import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import {
  namesOf,
  type Choice,
  type Domain,
  type PropertyAnswer,
  type NamedChoice,
  type VocabularyAnswer,
} from '@bluestem/core/queries'
import { call } from './http.ts'

/** A choice as queries name it: a label's family by identity. */
const asNamed = ({ id, name, qualified, title, own, retired, familyId }: NamedChoice): Choice => ({
  id,
  name,
  qualified,
  title,
  ...(familyId === undefined ? {} : { family: familyId }),
  ...(own === undefined ? {} : { own }),
  ...(retired ? { retired } : {}),
})

/** Everything a query can name, as it is defined now; read once and again after an edition was published. */
export const useVocabulary = defineStore('vocabulary', () => {
  const vocabulary = ref<VocabularyAnswer>()
  const load = async (): Promise<void> => {
    vocabulary.value = await call('GET /vocabulary')
  }
  const byHandle = computed(
    () => new Map(vocabulary.value?.properties.map((property) => [property.handle, property])),
  )
  const property = (handle: string): PropertyAnswer | undefined => byHandle.value.get(handle)
  const title = (handle: string): string => property(handle)?.title ?? handle
  const choices = (handle: string): readonly NamedChoice[] => {
    const type = property(handle)?.type
    return type && (type.kind === 'choice' || type.kind === 'array')
      ? (vocabulary.value?.choices[type.domain] ?? [])
      : []
  }
  /** the properties that can stand as columns */
  const columns = computed(
    () => vocabulary.value?.properties.filter((property) => !property.orderOnly) ?? [],
  )
  /** those with a list of values, by which boards and groups are made */
  const groupable = computed(() =>
    columns.value.filter(
      (column) =>
        (column.type.kind === 'choice' && column.type.domain !== 'item') ||
        column.type.kind === 'boolean',
    ),
  )
  /** what a query can name, as reading one asks for it */
  const names = computed(() => namesOf(vocabulary.value?.properties ?? [], choicesAsNamed.value))
  const choicesAsNamed = computed((): Partial<Record<Domain, Choice[]>> => {
    const domains = Object.entries(vocabulary.value?.choices ?? {})
    return Object.fromEntries(domains.map(([domain, choices]) => [domain, choices.map(asNamed)]))
  })
  return { vocabulary, names, load, property, title, choices, columns, groupable }
})
