<script setup lang="ts">
import type { VersionAnswer } from '@bluestem/core/work'
import Button from 'primevue/button'
import { computed } from 'vue'
import { useVocabulary } from '../api/vocabulary.store.ts'
import { useSession } from '../session/session.store.ts'
import Sheet from '../parts/Sheet.vue'
import TextDifference from '../parts/TextDifference.vue'
import ValueText from '../parts/ValueText.vue'
import { valueOf } from '../parts/valueOf.ts'
import { agoWords } from '../parts/words.ts'
import type { Clash } from './changing.ts'

/** What two people changed at once: both values with their difference, and whose stays. */
const { clashes, versions } = defineProps<{
  clashes: readonly Clash[]
  /** the history of the item, the latest first */
  versions: readonly VersionAnswer[]
}>()
const emit = defineEmits<{ mine: []; theirs: [] }>()
const vocabulary = useVocabulary()
const session = useSession()
/** The change that the clash is with: the latest one of any of these values. */
const other = computed(() =>
  versions.find(({ state }, place) => {
    const before = versions[place + 1]?.state
    return clashes.some(
      ({ handle }) =>
        JSON.stringify(valueOf(state, handle) ?? null) !==
        JSON.stringify((before && valueOf(before, handle)) ?? null),
    )
  }),
)
const who = computed(() =>
  other.value?.by.id === session.session?.person.id
    ? 'In another window you'
    : (other.value?.by.title ?? 'Somebody'),
)

/** A value that was given, as it is shown. */
function shown({ handle, mine }: Clash): unknown {
  const choices = new Map(vocabulary.choices(handle).map((choice) => [choice.id, choice]))
  const choiceOf = (id: unknown): unknown => choices.get(String(id)) ?? id
  return Array.isArray(mine) ? mine.map(choiceOf) : choiceOf(mine)
}
const isText = ({ handle }: Clash): boolean => vocabulary.property(handle)?.type.kind === 'text'
const textOf = (value: unknown): string | null =>
  typeof value === 'string' && value !== '' ? value : null
</script>

<template>
  <Sheet wide title="Changed by two at once" @close="emit('theirs')">
    <p>
      {{ who }} changed this{{ other ? ` ${agoWords(other.from, session.now)}` : '' }}, while you
      did. Nothing is written over before you say which stays; theirs is kept in the history either
      way.
    </p>
    <section v-for="entry in clashes" :key="entry.handle" class="clash">
      <h3>{{ vocabulary.title(entry.handle) }}</h3>
      <dl>
        <dt>Theirs, as it is now</dt>
        <dd>
          <ValueText :handle="entry.handle" :value="entry.theirs" /><span
            v-if="entry.theirs === null"
            class="quiet"
            >empty</span
          >
        </dd>
        <dt>Yours</dt>
        <dd>
          <TextDifference
            v-if="isText(entry)"
            :before="textOf(entry.theirs)"
            :after="textOf(entry.mine)"
          />
          <template v-else
            ><ValueText :handle="entry.handle" :value="shown(entry)" /><span
              v-if="entry.mine === null"
              class="quiet"
              >empty</span
            ></template
          >
        </dd>
      </dl>
    </section>
    <div class="acts">
      <Button label="Take mine" @click="emit('mine')" /><Button
        severity="secondary"
        autofocus
        label="Keep theirs"
        @click="emit('theirs')"
      />
    </div>
  </Sheet>
</template>

<style scoped>
.clash {
  border-top: 1px solid var(--hair);
  padding: 8px 0 12px;
}
dl {
  display: grid;
  grid-template-columns: 150px minmax(0, 1fr);
  gap: 6px 16px;
  margin: 0;
}
dt {
  color: var(--quiet);
}
dd {
  margin: 0;
  overflow-wrap: anywhere;
  max-height: 200px;
  overflow: auto;
}
</style>
