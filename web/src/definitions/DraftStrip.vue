<script setup lang="ts">
import { ref } from 'vue'
import { useSession } from '../app/session.store.ts'
import Sheet from '../parts/Sheet.vue'
import { agoWords, counted } from '../parts/words.ts'
import { useDefinitions } from './definitions.store.ts'

/** What is pending, at all times: how many changes, what they touch, and the way to publish or drop them. */
const definitions = useDefinitions()
const session = useSession()
const open = ref(false)
const publishing = ref(false)
const note = ref('')

async function publish(): Promise<void> {
  publishing.value = false
  if (await definitions.publish(note.value)) note.value = ''
}
</script>

<template>
  <div v-if="definitions.draft" class="strip" role="region" aria-label="Draft">
    <b>Draft “{{ definitions.draft.title }}”</b>
    <span>{{ counted(definitions.draft.changes.length, 'change') }}</span>
    <span class="warn">touches {{ counted(definitions.draft.touched, 'item') }}{{ definitions.draft.changes.filter((change) => change.items > 0).length > 1 ? ' or more' : '' }}</span>
    <span v-if="definitions.draft.problems.length" class="warn">· {{ definitions.draft.problems[0]!.message }}</span>
    <span class="grow" />
    <button class="act" type="button" :aria-expanded="open" @click="open = !open">{{ open ? 'Fold' : 'What it changes' }}</button>
    <button v-if="session.mayDefine" class="act" type="button" @click="definitions.drop()">Drop</button>
    <button v-if="session.mayDefine" class="act main" type="button" :disabled="definitions.draft.problems.length > 0 || definitions.draft.changes.length === 0" @click="publishing = true">Publish edition {{ definitions.draft.base + 1 }}</button>
  </div>
  <div v-if="open && definitions.draft" class="changes">
    <table class="ledger"><thead><tr><th scope="col">What it does</th><th scope="col">By</th><th scope="col" class="num">Touches</th><th scope="col"><span class="seen-not">Undo</span></th></tr></thead>
      <tbody><tr v-for="change in definitions.draft.changes" :key="change.id"><td>{{ change.words }}</td><td class="quiet">{{ change.by }}, {{ agoWords(change.at, session.now) }}</td><td class="num">{{ counted(change.items, 'item') }}</td><td class="num"><button v-if="session.mayDefine" class="plain" type="button" :disabled="!change.undoable" :title="change.undoable ? '' : 'Later changes rest on this one'" @click="definitions.undo(change.id)">undo</button></td></tr></tbody></table>
    <p v-for="problem in definitions.draft.problems" :key="problem.pointer" class="told">{{ problem.message }} Needed: {{ problem.expected }}.</p>
  </div>
  <Sheet v-if="publishing && definitions.draft" :title="`Publish edition ${definitions.draft.base + 1}`" wide @close="publishing = false">
    <form @submit.prevent="publish">
      <table class="ledger"><thead><tr><th scope="col">What it does</th><th scope="col" class="num">Touches</th></tr></thead><tbody><tr v-for="change in definitions.draft.changes" :key="change.id"><td>{{ change.words }}</td><td class="num">{{ counted(change.items, 'item') }}</td></tr></tbody></table>
      <label class="field note"><span>Why (people read this in the list of editions)</span><textarea v-model="note" rows="2" maxlength="2000" autofocus /></label>
      <div class="acts"><button class="act main" type="submit">Publish</button><button class="act" type="button" @click="publishing = false">Not yet</button></div>
    </form>
  </Sheet>
</template>

<style scoped>
.strip { display: flex; align-items: center; gap: 14px; background: var(--wash); border-bottom: 1px solid var(--rule); padding: 8px var(--edge); flex: none; flex-wrap: wrap }
.changes { padding: 4px var(--edge) 12px; border-bottom: 1px solid var(--rule); max-height: 40vh; overflow: auto; flex: none }
.note { margin-top: 14px }
</style>
