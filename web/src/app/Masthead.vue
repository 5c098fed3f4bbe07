<script setup lang="ts">
import Button from 'primevue/button'
import Menu from 'primevue/menu'
import { computed, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import JotSheet from '../jots/JotSheet.vue'
import { useJots } from '../jots/jots.store.ts'
import NoticesButton from '../notices/NoticesButton.vue'
import Find from './Find.vue'
import PasswordSheet from './PasswordSheet.vue'
import { useSession } from '../session/session.store.ts'
import { theme, turnTheme } from '../theme/theme.ts'
import { isLive } from '../api/live.ts'
import { initials } from '../parts/words.ts'

const places = ['Definitions', 'Work', 'Queries', 'Views', 'Dashboards', 'Consistency'] as const
const route = useRoute()
const router = useRouter()
const session = useSession()
const here = computed(() => route.meta.place)
const changing = ref(false)
const jotting = ref(false)
const jots = useJots()
const menu = ref<InstanceType<typeof Menu>>()
const person = computed(() => session.session?.person)
const acts = computed(() => [
  { label: theme.value === 'light' ? 'Dark paper' : 'Light paper', command: turnTheme },
  { label: 'Guide', command: () => void router.push('/guide/setting-up') },
  { label: 'Change password', command: () => (changing.value = true) },
  { label: 'Sign out', command: () => void leave() },
])

async function leave(): Promise<void> {
  await session.signOut()
  await router.push('/sign-in')
  // A whole new page: nothing that was read stays in its stores for whoever signs in next.
  window.location.reload()
}
</script>

<template>
  <header class="masthead">
    <RouterLink to="/" class="mark" aria-label="Bluestem, start">
      <svg
        width="20"
        height="26"
        viewBox="0 0 20 26"
        fill="none"
        stroke="currentColor"
        stroke-width="1.7"
        stroke-linecap="round"
        aria-hidden="true"
      >
        <path d="M8 25C8 17 9 10 12 2" />
        <path class="leaf" d="M8.6 17C5 16.5 3 14 2.6 10.5c3.4.6 5.6 2.9 6 6.5Z" />
        <path class="leaf" d="M10 11c3.6-.2 6-2 7.4-5.2-3.7 0-6.2 1.8-7.4 5.2Z" />
      </svg>
      <span>Bluestem</span>
    </RouterLink>
    <nav class="stem" aria-label="Places">
      <RouterLink
        v-for="place in places"
        :key="place"
        :to="`/${place.toLowerCase()}`"
        :aria-current="here === place.toLowerCase() ? 'page' : undefined"
        >{{ place }}</RouterLink
      >
    </nav>
    <span class="grow" />
    <span
      v-if="!isLive"
      class="away"
      role="status"
      title="Others’ changes do not reach this page for now; it is trying again."
      >not live</span
    >
    <Find />
    <NoticesButton />
    <Button
      v-if="session.mayEdit"
      severity="secondary"
      class="jot"
      label="Jot"
      aria-keyshortcuts="j"
      title="Jot titles down (J)"
      :badge="jots.count ? String(jots.count) : undefined"
      @click="jotting = true"
    />
    <Button
      severity="secondary"
      class="person"
      :label="initials(person?.name ?? '')"
      :aria-label="`${person?.name}: account`"
      aria-haspopup="menu"
      @click="menu?.toggle($event)"
    />
    <Menu
      ref="menu"
      :model="acts"
      popup
      append-to="self"
      :aria-label="`Account of ${person?.name}`"
    >
      <template #start>
        <p class="who">
          <b>{{ person?.name }}</b>
          <span class="quiet">{{ person?.role }} · {{ session.session?.workspace.title }}</span>
        </p>
      </template>
    </Menu>
    <JotSheet v-if="session.mayEdit" v-model:open="jotting" />
    <PasswordSheet v-if="changing" @close="changing = false" />
  </header>
</template>

<style scoped>
.masthead {
  height: var(--mast);
  flex: none;
  display: flex;
  align-items: center;
  gap: 14px;
  padding: 0 var(--edge);
  border-bottom: 1px solid var(--rule);
  background: var(--paper);
}
.mark {
  font: 500 22px var(--serif);
  letter-spacing: -0.2px;
  display: flex;
  gap: 9px;
  align-items: center;
  width: 156px;
  color: var(--ink);
}
.mark:hover {
  text-decoration: none;
}
.mark svg {
  color: var(--stem);
}
.leaf {
  fill: var(--stem-wash);
}
.stem {
  position: relative;
  display: flex;
  gap: 34px;
  height: var(--mast);
  align-items: center;
}
.stem::after {
  content: '';
  position: absolute;
  left: 4px;
  right: 4px;
  bottom: 9px;
  border-bottom: 1px solid var(--rule);
}
.stem a {
  position: relative;
  color: var(--quiet);
  font-size: 15px;
  padding-bottom: 8px;
}
.stem a:hover {
  text-decoration: none;
  color: var(--ink);
}
.stem a::after {
  content: '';
  position: absolute;
  left: 50%;
  bottom: -8px;
  width: 7px;
  height: 7px;
  margin-left: -3.5px;
  border: 1px solid var(--rule);
  border-radius: 50%;
  background: var(--paper);
  z-index: 1;
}
.stem [aria-current] {
  color: var(--ink);
  font-weight: 600;
}
.stem [aria-current]::after {
  background: var(--stem);
  border-color: var(--stem);
  width: 9px;
  height: 9px;
  margin-left: -4.5px;
  bottom: -9px;
}
.away {
  color: var(--russet);
  font-size: 12.5px;
  border-bottom: 1px dashed var(--russet);
  white-space: nowrap;
}
.person {
  width: 28px;
  height: 28px;
  padding: 0;
  font-size: 12px;
  font-weight: 600;
}
.masthead :deep(.p-menu) {
  right: var(--edge);
  left: auto !important;
  top: 44px !important;
}
.who {
  display: flex;
  flex-direction: column;
  padding: 8px 16px 4px;
}
.masthead :deep(.p-button) {
  flex: none;
}
@media (max-width: 1180px) {
  .mark {
    width: auto;
  }
  .stem {
    gap: 20px;
  }
}
@media (max-width: 1060px) {
  .masthead {
    gap: 10px;
  }
  .mark span {
    display: none;
  }
  .stem {
    gap: 16px;
  }
}
</style>
