<script setup lang="ts">
import { computed } from 'vue'
import type { Named } from '@bluestem/core/definitions'
import { useSession } from '../../session/session.store.ts'
import { itemsBehind } from '../../queries/itemsBehind.ts'
import Margin from '../../parts/Margin.vue'
import { counted, dayWords, numberWords, secondsAgoWords } from '../../parts/words.ts'
import { useDefinitions } from '../store/definitions.store.ts'
import LastUsed from './LastUsed.vue'

/** What the margin always answers of an entry: what it is, where it is used, what changing it would touch, who changed it last. */
const {
  id,
  title,
  sub = '',
  description = '',
  filter,
  touches,
  countable = true,
  living = false,
} = defineProps<{
  id: string
  title: string
  sub?: string
  description?: string
  filter?: unknown
  touches?: string
  countable?: boolean
  living?: boolean
}>()
const definitions = useDefinitions()
const session = useSession()
/** Where what names it is opened. */
const address: Record<Named['kind'], (id: string) => string> = {
  query: (id) => `/queries/${id}`,
  view: (id) => `/views/${id}`,
  measure: () => '/dashboards/measures',
  dashboard: (id) => `/dashboards/${id}`,
  template: (id) => `/definitions/templates?id=${id}`,
  team: (id) => `/definitions/people?id=${id}`,
}
/** how many seconds ago it was counted where it is used */
const countedAgo = computed(() => definitions.usage.countedAgo ?? 0)
const named = computed(() => definitions.usage.named[id] ?? [])
const changed = computed(() => definitions.usage.changed[id])
</script>

<template>
  <Margin>
    <h2>{{ title }}</h2>
    <div v-if="sub" class="quiet">{{ sub }}</div>
    <p v-if="description" class="why">{{ description }}</p>
    <slot />
    <h3>Where it is used</h3>
    <div v-if="countable" class="line">
      <span>items</span
      ><span
        ><RouterLink v-if="filter && definitions.items(id)" :to="itemsBehind(filter)">{{
          numberWords(definitions.items(id))
        }}</RouterLink
        ><template v-else>{{ numberWords(definitions.items(id)) }}</template></span
      >
    </div>
    <div v-if="countable" class="line"><span>last used</span><LastUsed :id="id" /></div>
    <div v-for="(entry, index) in named.slice(0, 12)" :key="index" class="line">
      <span>{{ entry.kind }}</span><span
        ><RouterLink v-if="entry.id" :to="address[entry.kind](entry.id)">{{
          entry.title
        }}</RouterLink
        ><template v-else>{{ entry.title }}</template></span
      >
    </div>
    <p v-if="named.length === 0" class="quiet">
      No query, view, measure, template or team names it.
    </p>
    <p v-else-if="named.length > 12" class="quiet">and {{ named.length - 12 }} more</p>
    <p v-if="countedAgo >= 5" class="quiet">counted {{ secondsAgoWords(countedAgo) }}</p>
    <slot name="used" />
    <template v-if="touches !== undefined"
      ><h3>What changing it would touch</h3>
      <p class="quiet">
        {{
          touches ||
          `${counted(definitions.items(id), 'item')} would show the change ${living ? 'at once' : 'when it is published'}.`
        }}
      </p></template
    >
    <h3 v-if="!living">Last changed</h3>
    <slot v-if="living" name="changed" />
    <p v-else-if="changed" class="quiet">
      <RouterLink to="/definitions/editions">edition {{ changed.edition }}</RouterLink
      >, {{ dayWords(changed.at, session.now) }}{{ changed.by ? `, ${changed.by}` : ''
      }}<template v-if="changed.note">: “{{ changed.note }}”</template>
    </p>
    <p v-else class="quiet">
      {{
        definitions.draft
          ? 'in no edition yet, or not since the first'
          : 'not since the first edition'
      }}
    </p>
    <div class="acts below"><slot name="acts" /></div>
  </Margin>
</template>

<style scoped>
.why {
  margin-top: 8px;
}
.below {
  margin-top: 14px;
}
</style>
