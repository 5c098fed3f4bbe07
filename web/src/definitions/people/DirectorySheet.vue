<script setup lang="ts">
import type { DirectoryAnswer, DirectoryTaken } from '@bluestem/core/directory'
import Button from 'primevue/button'
import Checkbox from 'primevue/checkbox'
import { computed, onMounted, reactive, ref } from 'vue'
import { call } from '../../api/http.ts'
import { useNotes } from '../../parts/notes.store.ts'
import { useRefusal } from '../../parts/refusal.ts'
import Sheet from '../../parts/Sheet.vue'
import ShownOnce from '../../parts/ShownOnce.vue'
import { counted } from '../../parts/words.ts'
import { useLiving } from '../store/living.store.ts'

/** The directory of people beside those who are here: what differs is chosen one by one, and taken over in one act. */
const emit = defineEmits<{ close: [] }>()
const living = useLiving()
const notes = useNotes()
const { attempt, words, busy } = useRefusal()
const directory = ref<DirectoryAnswer>()
const taken = ref<DirectoryTaken>()
const chosen = reactive<Record<'joins' | 'differs' | 'gone', string[]>>({
  joins: [],
  differs: [],
  gone: [],
})

onMounted(
  async () =>
    void (await attempt(async () => {
      const found = await call('GET /directory')
      directory.value = found
      chosen.joins = found.joins.map(({ email }) => email)
      chosen.differs = found.differs.map(({ id }) => id)
    })),
)

type Difference = DirectoryAnswer['differs'][number]
/** What becomes of somebody, each part in words. */
const changesOf = ({ before, after }: Difference): string =>
  [
    before.name === after.name ? '' : `is called ${after.name}`,
    before.role === after.role ? '' : `${before.role} becomes ${after.role}`,
    before.active === after.active ? '' : 'may sign in again',
  ]
    .filter(Boolean)
    .join(', ')

const parts = computed(() => {
  const { joins, differs, gone } = directory.value ?? { joins: [], differs: [], gone: [] }
  return [
    {
      key: 'joins' as const,
      title: 'Not here yet',
      about: 'They are added and invited, each by an address.',
      people: joins.map((join) => ({
        id: join.email,
        name: join.name,
        words: `${join.role}, ${join.email}`,
      })),
    },
    {
      key: 'differs' as const,
      title: 'Different in the directory',
      about: '',
      people: differs.map((differ) => ({
        id: differ.id,
        name: differ.before.name,
        words: changesOf(differ),
      })),
    },
    {
      key: 'gone' as const,
      title: 'Not in the directory',
      about:
        'Whoever is chosen may not sign in any more. Their name stays in history; hand their open work over first.',
      people: gone.map((entry) => ({
        id: entry.id,
        name: entry.name,
        words: `${entry.role}, ${entry.email}`,
      })),
    },
  ].filter(({ people }) => people.length > 0)
})
const count = computed(() => chosen.joins.length + chosen.differs.length + chosen.gone.length)

const take = async (): Promise<void> =>
  void (await attempt(async () => {
    const done = await living.send('POST /directory', { body: { ...chosen } })
    const about = [
      done.added.length > 0 ? `${counted(done.added.length, 'person', 'people')} added` : '',
      done.changed > 0 ? `${done.changed} changed` : '',
      done.gone > 0 ? `${done.gone} may not sign in any more` : '',
    ]
    notes.show('well', `From the directory: ${about.filter(Boolean).join(', ')}.`)
    if (done.added.length === 0) emit('close')
    taken.value = done
  }))
</script>

<template>
  <Sheet wide title="From the directory" @close="emit('close')">
    <template v-if="taken">
      <p>
        Send each of them their address. Whoever opens one chooses a password and is in under that
        name. They are shown this once, work once, and hold for seven days.
      </p>
      <div v-for="entry in taken.added" :key="entry.id">
        <h3>{{ entry.name }}</h3>
        <ShownOnce :address="entry.address" :label="`The invitation of ${entry.name}`" />
      </div>
      <div class="acts"><Button label="Done" @click="emit('close')" /></div>
    </template>
    <template v-else-if="directory">
      <p v-if="directory.file === null">
        No directory is set. It is a table with the headings <b>name</b>, <b>email</b> and
        <b>role</b> on the server; whoever runs Bluestem sets its place by
        <code>BLUESTEM_DIRECTORY</code>.
      </p>
      <p v-else class="quiet">
        {{ directory.file }}: {{ counted(directory.same, 'person is', 'people are') }} here as the
        directory has them<template v-if="parts.length === 0 && directory.problems.length === 0"
          >, and nobody otherwise</template
        >.
      </p>
      <div v-if="directory.problems.length" class="told" role="alert">
        <p>
          Some lines cannot be read. They are passed over, and nobody counts as gone until they are
          mended.
        </p>
        <p
          v-for="problem in directory.problems.slice(0, 5)"
          :key="`${problem.line} ${problem.column}`"
        >
          Line {{ problem.line }}: {{ problem.message }}
        </p>
        <p v-if="directory.problems.length > 5">
          and {{ counted(directory.problems.length - 5, 'more problem') }}
        </p>
      </div>
      <fieldset v-for="part in parts" :key="part.key">
        <legend>{{ part.title }}: {{ part.people.length }}</legend>
        <p v-if="part.about" class="quiet">{{ part.about }}</p>
        <div class="list">
          <label v-for="person in part.people" :key="person.id"
            ><Checkbox v-model="chosen[part.key]" :value="person.id" /> <b>{{ person.name }}</b>
            <span class="quiet">{{ person.words }}</span></label
          >
        </div>
      </fieldset>
      <p v-if="words" class="told" role="alert">{{ words }}</p>
      <div class="acts below">
        <Button
          v-if="parts.length"
          autofocus
          :disabled="busy || count === 0"
          :label="`Take over ${counted(count, 'person', 'people')}`"
          @click="take"
        /><Button severity="secondary" label="Not now" @click="emit('close')" />
      </div>
    </template>
    <p v-else-if="words" class="told" role="alert">{{ words }}</p>
    <p v-else class="quiet">The directory is read …</p>
  </Sheet>
</template>

<style scoped>
fieldset {
  border: 0;
  border-top: 1px solid var(--rule);
  margin: 12px 0 0;
  padding: 8px 0 0;
}
legend {
  padding: 0 10px 0 0;
  font-weight: 600;
}
.list {
  max-height: 220px;
  overflow: auto;
}
.below {
  margin-top: 16px;
}
.list label {
  display: flex;
  gap: 10px;
  align-items: baseline;
  padding: 3px 0;
}
</style>
