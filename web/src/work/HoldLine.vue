<script setup lang="ts">
import type { WholeItemAnswer } from '@bluestem/core/work'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { ref } from 'vue'
import { useSession } from '../session/session.store.ts'
import { dayWords } from '../parts/words.ts'
import { type ItemGiven, plain } from './changing.ts'

/** An item stuck, with its reason; or the way to say that it is. */
const { item } = defineProps<{ item: WholeItemAnswer }>()
const emit = defineEmits<{ change: [ItemGiven, ItemGiven] }>()
const session = useSession()
const asking = ref(false)
const reason = ref('')

function hold(): void {
  asking.value = false
  emit('change', { on_hold: true, hold_reason: reason.value || null }, { on_hold: false })
}
</script>

<template>
  <p v-if="item.on_hold" class="hold">
    <b>On hold</b>{{ ' '
    }}<template v-if="item.holdSince">since {{ dayWords(item.holdSince, session.now) }}</template
    ><template v-if="item['hold_reason']">: {{ item['hold_reason'] }}.</template>{{ ' '
    }}<Button
      variant="link"
      v-if="session.mayEdit"
      @click="
        emit(
          'change',
          { on_hold: false },
          { on_hold: true, hold_reason: plain(item['hold_reason']) as string | null },
        )
      "
      label="Take off hold"
    />
  </p>
  <form v-else-if="asking" class="row ask" @submit.prevent="hold">
    <InputText
      v-model="reason"
      aria-label="Why it is stuck"
      placeholder="Why is it stuck?"
      autofocus
      fluid
    /><Button severity="secondary" type="submit" label="Put on hold" /><Button
      variant="link"
      @click="asking = false"
      label="Not now"
    />
  </form>
  <Button
    variant="link"
    class="small"
    v-else-if="session.mayEdit && item.status.mark !== 'done'"
    @click="asking = true"
    label="put on hold …"
  />
</template>

<style scoped>
.hold {
  padding: 7px 12px;
  margin-bottom: 10px;
  background: repeating-linear-gradient(135deg, var(--russet-wash) 0 6px, transparent 6px 12px);
  border-bottom: 1px solid var(--hair);
  border-top: 1px solid var(--hair);
}
.ask {
  margin-bottom: 10px;
  max-width: 620px;
}
.small {
  font-size: 12.5px;
}
</style>
