<script setup lang="ts">
import type { LabelAnswer } from '@bluestem/core/labels'
import Checkbox from 'primevue/checkbox'
import { computed, ref } from 'vue'
import LabelMark from '../../parts/LabelMark.vue'
import { agoWords, numberWords } from '../../parts/words.ts'
import { useSession } from '../../app/session.store.ts'
import { useDefinitions } from '../definitions.store.ts'
import { useLiving } from '../living.store.ts'
import { useRowsInSight } from '../chapter/sight.ts'

/** Labels as rows; only those in sight are made, so thousands scroll. */
const ticked = defineModel<readonly string[]>('ticked', { required: true })
const { labels, selected } = defineProps<{ labels: readonly LabelAnswer[]; selected?: string }>()
const emit = defineEmits<{ select: [string]; open: [LabelAnswer] }>()
const definitions = useDefinitions()
const living = useLiving()
const session = useSession()
const box = ref<HTMLElement>()
const { rows, before, after, go } = useRowsInSight(() => labels, box)
const tick = (id: string, on: boolean): void => {
  ticked.value = on ? [...ticked.value, id] : ticked.value.filter((one) => one !== id)
}
const mayTick = computed(() => living.keptProjects.length > 0)
const family = (label: LabelAnswer): string =>
  label.family ? (definitions.document.families[label.family]?.title ?? '') : ''
</script>

<template>
  <div ref="box" class="scrolls">
    <table class="ledger" :aria-rowcount="labels.length + 1">
      <thead>
        <tr>
          <th v-if="mayTick" scope="col"><span class="seen-not">Tick</span></th>
          <th scope="col">Label</th>
          <th scope="col">For</th>
          <th scope="col">When to use it</th>
          <th scope="col" class="num">Items</th>
          <th scope="col" class="num">Named by</th>
          <th scope="col" class="num">Last used</th>
        </tr>
      </thead>
      <tbody>
        <tr v-if="before" class="filler" aria-hidden="true">
          <td :colspan="mayTick ? 7 : 6" :style="{ height: `${before}px` }" />
        </tr>
        <tr
          v-for="{ index, one: label } in rows"
          :key="label.id"
          tabindex="0"
          :aria-rowindex="index + 2"
          :class="{ selected: label.id === selected, retired: label.retired }"
          @click="emit('select', label.id)"
          @focus="emit('select', label.id)"
          @keydown.enter.self.prevent="emit('open', label)"
          @keydown.down.self.prevent="go(index + 1)"
          @keydown.up.self.prevent="go(index - 1)"
        >
          <td v-if="mayTick" class="tick">
            <Checkbox
              :model-value="ticked.includes(label.id)"
              binary
              @update:model-value="tick(label.id, $event)"
              :aria-label="`Tick ${label.title}`"
              @click.stop
            />
          </td>
          <td class="nowrap">
            <LabelMark
              :label="{
                id: label.id,
                title: label.title,
                mark: label.colour,
                family: family(label),
              }"
            /><small v-if="label.retired" class="quiet">retired</small>
          </td>
          <td class="quiet nowrap">
            {{
              label.project ? (living.projectTitle.get(label.project) ?? label.project) : 'everyone'
            }}
          </td>
          <td class="quiet cut">{{ label.description }}</td>
          <td class="num">{{ numberWords(definitions.items(label.id)) }}</td>
          <td class="num quiet">{{ definitions.usage.named[label.id]?.length ?? 0 }}</td>
          <td :class="['num', 'nowrap', definitions.isUnused(label.id, 180) ? 'warn' : 'quiet']">
            {{
              definitions.usage.last[label.id]
                ? agoWords(definitions.usage.last[label.id]!, session.now)
                : 'never'
            }}
          </td>
        </tr>
        <tr v-if="after" class="filler" aria-hidden="true">
          <td :colspan="mayTick ? 7 : 6" :style="{ height: `${after}px` }" />
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.tick {
  width: 26px;
}
.cut {
  max-width: 180px;
}
</style>
