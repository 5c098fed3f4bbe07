<script setup lang="ts">
import type { SavedQuery } from '@bluestem/core/queries'
import Button from 'primevue/button'
import { useSession } from '../session/session.store.ts'
import { agoWords } from '../parts/words.ts'

/** The name of a query, who keeps it, and what can be done with it. */
defineProps<{
  kept: SavedQuery | undefined
  /** what it is called until it is kept */
  title: string
  /** whether it is another than was kept */
  changed: boolean
  /** whether it can be read */
  sound: boolean
}>()
const emit = defineEmits<{
  putBack: []
  share: []
  rename: []
  discard: []
  keepAsNew: []
  keep: []
}>()
const session = useSession()
</script>

<template>
  <div class="row top">
    <div class="grow">
      <h1>{{ kept?.title ?? title }}</h1>
      <p class="meta">
        <template v-if="kept"
          >shared with {{ kept.shared === 'everyone' ? 'everyone' : 'nobody yet' }} · kept by
          {{ kept.owner.title }} · changed {{ agoWords(kept.changedAt, session.now)
          }}<template v-if="kept.description"> · {{ kept.description }}</template
          ><b v-if="changed" class="warn"> · not kept yet</b></template
        >
        <template v-else>not kept yet</template>
      </p>
    </div>
    <div class="acts">
      <Button
        severity="secondary"
        v-if="kept && changed"
        @click="emit('putBack')"
        label="Put back"
      />
      <template v-if="kept?.mayEdit && !changed">
        <Button
          severity="secondary"
          @click="emit('share')"
          :label="kept.shared === 'me' ? 'Share with everyone' : 'Only me'"
        />
        <Button severity="secondary" @click="emit('rename')" label="Rename" />
        <Button severity="secondary" @click="emit('discard')" label="Delete" />
      </template>
      <Button
        as="router-link"
        severity="secondary"
        v-if="kept && session.mayEdit && !changed"
        :to="`/views/new?query=${kept.id}`"
        label="Arrange"
      />
      <Button
        severity="secondary"
        v-if="kept && changed && session.mayEdit"
        :disabled="!sound"
        @click="emit('keepAsNew')"
        label="Keep as new"
      />
      <Button
        v-if="session.mayEdit && (changed || !kept)"
        :disabled="!sound"
        @click="emit('keep')"
        label="Keep"
      />
    </div>
  </div>
</template>

<style scoped>
.top {
  align-items: flex-start;
}
</style>
