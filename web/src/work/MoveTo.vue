<script setup lang="ts">
import type { WholeItemAnswer } from '@bluestem/core/work'
import Button from 'primevue/button'
import Textarea from 'primevue/textarea'
import { computed, ref } from 'vue'
import StatusMark from '../parts/StatusMark.vue'

/** Where an item may go. What a move still lacks is said before it is tried; a reason is given together with it. */
const { item, refusal } = defineProps<{ item: WholeItemAnswer; refusal: string }>()
const emit = defineEmits<{ move: [string, string?]; refused: [string] }>()
const asking = ref<string>()
const reason = ref('')
const asked = computed(() => item.moves.find((move) => move.id === asking.value))

function go(move: WholeItemAnswer['moves'][number]): void {
  if (move.missing.length === 0 && !move.asksReason) return emit('move', move.id)
  asking.value = asking.value === move.id ? undefined : move.id
  reason.value = ''
}
function send(): void {
  if (!asking.value) return
  emit('move', asking.value, reason.value.trim() || undefined)
  asking.value = undefined
}
</script>

<template>
  <div class="row wrap moves">
    <slot /><span class="grow" /><span class="quiet">may go to</span>
    <Button
      severity="secondary"
      v-for="move in item.moves"
      :key="move.id"
      :class="{ lacks: move.missing.length > 0 }"
      :title="move.missing.join(' ')"
      :aria-expanded="move.missing.length || move.asksReason ? asking === move.id : undefined"
      @click="go(move)"
      :label="`${move.title}${move.missing.length || move.asksReason ? ' …' : ''}`"
    />
    <Button
      variant="link"
      class="refused"
      v-for="status in item.refusals"
      :key="status.id"
      :title="status.message"
      @click="emit('refused', status.message)"
      :label="status.title"
    />
  </div>
  <p v-if="refusal" class="told" role="alert">{{ refusal }}</p>
  <form v-if="asked" class="asks" @submit.prevent="send">
    <p>
      <StatusMark :status="asked" /> <i v-if="asked.says">{{ asked.says }}</i>
    </p>
    <ul v-if="asked.missing.length" class="told">
      <li v-for="line in asked.missing" :key="line">{{ line }}</li>
    </ul>
    <Textarea
      v-if="asked.asksReason"
      v-model="reason"
      rows="2"
      aria-label="Say why"
      placeholder="Say why"
      maxlength="20000"
      fluid
    />
    <div class="acts">
      <Button
        type="submit"
        :disabled="asked.asksReason && !reason.trim() && asked.missing.length > 0"
        :label="`Go to ${asked.title}`"
      /><Button severity="secondary" @click="asking = undefined" label="Not now" />
    </div>
  </form>
</template>

<style scoped>
.moves {
  padding-bottom: 12px;
  border-bottom: 1px solid var(--hair);
  margin-bottom: 12px;
}
.refused {
  color: var(--quiet);
  text-decoration: line-through;
  font-size: 13px;
}
.lacks {
  border-style: dashed;
}
.asks {
  border: 1px solid var(--hair);
  background: var(--sheet);
  padding: 10px 14px;
  margin-bottom: 12px;
  max-width: 640px;
}
.asks i {
  font: italic 15px/1.4 var(--serif);
  margin-left: 8px;
}
ul {
  margin: 4px 0 8px;
  padding-left: 20px;
}
textarea {
  margin-bottom: 8px;
}
</style>
