<script setup lang="ts">
import Button from 'primevue/button'
import type { Draft } from './types.ts'
import { useSession } from '../app/session.store.ts'
import { itemsBehind } from '../queries/itemsBehind.ts'
import { agoWords, counted, firstOf } from '../parts/words.ts'
import { useDefinitions } from './definitions.store.ts'

/** The changes of a draft in words: who made each, what it touches, and its undoing. */
const { draft } = defineProps<{ draft: Draft }>()
const definitions = useDefinitions()
const session = useSession()
</script>

<template>
  <table class="ledger">
    <thead>
      <tr>
        <th scope="col">What it does</th>
        <th scope="col">By</th>
        <th scope="col">Named by</th>
        <th scope="col" class="num">Touches</th>
        <th scope="col"><span class="seen-not">Undo</span></th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="change in draft.changes" :key="change.id">
        <td>{{ change.words }}</td>
        <td class="quiet nowrap">{{ change.by }}, {{ agoWords(change.at, session.now) }}</td>
        <td class="quiet">
          {{
            firstOf(
              change.named.map((one) => `${one.kind} ${one.title}`),
              3,
            ) || '–'
          }}
        </td>
        <td class="num nowrap">
          <RouterLink v-if="change.filter" :to="itemsBehind(change.filter)">{{
            counted(change.items, 'item')
          }}</RouterLink><template v-else>{{ counted(change.items, 'item') }}</template>
        </td>
        <td class="num">
          <Button
            variant="link"
            v-if="definitions.mayDraft && draft.mayPublish"
            :disabled="!change.undoable"
            :title="change.undoable ? '' : 'Later changes rest on this one'"
            @click="definitions.undo(change.id)"
            label="undo"
          />
        </td>
      </tr>
    </tbody>
  </table>
  <p v-for="problem in draft.problems" :key="problem.pointer + problem.message" class="told">
    {{ problem.message }}
    <template v-if="problem.expected">Needed: {{ problem.expected }}.</template>
  </p>
</template>
