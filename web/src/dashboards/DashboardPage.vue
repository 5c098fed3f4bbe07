<script setup lang="ts">
import { certain } from '@bluestem/core/known'
import type { SavedQuery } from '@bluestem/core/queries'
import Button from 'primevue/button'
import 'gridstack/dist/gridstack.min.css'
import { computed, nextTick, onMounted, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import type {
  DashboardContent,
  Widget,
  SavedDashboard,
  SavedMeasure,
} from '@bluestem/core/dashboards'
import { ApiProblem, call } from '../api/http.ts'
import { whenChanged } from '../api/whenChanged.ts'
import { useSession } from '../session/session.store.ts'
import KeepAs from '../parts/KeepAs.vue'
import { useNotes } from '../parts/notes.store.ts'
import AddWidget from './AddWidget.vue'
import { useGrid } from './useGrid.ts'
import WidgetBody from './WidgetBody.vue'

const route = useRoute()
const router = useRouter()
const session = useSession()
const notes = useNotes()
const id = String(route.params['id'])
const kept = ref<SavedDashboard>()
const saved = (): SavedDashboard => certain(kept.value, 'dashboard that is shown')
const widgets = ref<Widget[]>([])
const measures = ref<readonly SavedMeasure[]>([])
const queries = ref<readonly SavedQuery[]>([])
const missing = ref('')
const adding = ref(false)
const renaming = ref(false)
const { host, arranging, lay, arrange, add, remove, replace, keys } = useGrid(widgets)
const round = ref(0)
// A figure is more work than a list, so what others change is gathered longer.
whenChanged(() => (round.value += 1), 5000)

const changed = computed(
  () =>
    kept.value !== undefined &&
    JSON.stringify(kept.value.content.widgets) !== JSON.stringify(widgets.value),
)

onMounted(async () => {
  try {
    const [dashboard, all, asked] = await Promise.all([
      call('GET /dashboards/{id}', { params: { id } }),
      call('GET /measures'),
      call('GET /queries'),
    ])
    measures.value = all.measures
    queries.value = asked.queries
    kept.value = dashboard
    widgets.value = copyOf(dashboard)
    await nextTick()
    lay()
  } catch (error) {
    missing.value = error instanceof ApiProblem ? error.message : String(error)
  }
})

const copyOf = ({ content }: SavedDashboard): Widget[] =>
  content.widgets.map((widget) => ({ ...widget }))

async function addWidget(widget: Omit<Widget, 'id' | 'x' | 'y'>): Promise<void> {
  adding.value = false
  await add(widget)
}

async function keep(): Promise<void> {
  await notes.attempt(async () => {
    const content: DashboardContent = { widgets: widgets.value }
    const body = await call('PATCH /dashboards/{id}', {
      params: { id },
      body: { content },
      match: saved().version,
    })
    kept.value = body
    widgets.value = copyOf(body)
    arrange(false)
    notes.show('well', 'Kept.')
  })
}

const putBack = async (): Promise<void> => await replace(copyOf(saved()))

async function rename(given: {
  title: string
  description: string
  shared: 'me' | 'everyone'
}): Promise<void> {
  const body = await call('PATCH /dashboards/{id}', {
    params: { id },
    body: given,
    match: saved().version,
  })
  kept.value = body
  renaming.value = false
}

async function discard(): Promise<void> {
  if (
    await notes.attempt(async () => {
      await call('DELETE /dashboards/{id}', { params: { id }, match: saved().version })
    })
  )
    await router.push('/dashboards')
}

async function copy(): Promise<void> {
  await notes.attempt(async () => {
    const made = await call('POST /dashboards', {
      body: {
        title: `${saved().title} (copy)`,
        shared: 'me',
        content: { widgets: widgets.value },
      },
    })
    await router.push(`/dashboards/${made.id}`)
  })
}
const measureOf = (widget: Widget): SavedMeasure | undefined =>
  measures.value.find((entry) => entry.id === widget.measure)
const queryOf = (widget: Widget): SavedQuery | undefined =>
  queries.value.find((entry) => entry.id === (widget.query ?? measureOf(widget)?.content.query))
</script>

<template>
  <section v-if="missing" class="sheet">
    <h1>Dashboard</h1>
    <p class="blank">{{ missing }} <RouterLink to="/dashboards">All dashboards</RouterLink></p>
  </section>
  <section v-else-if="kept" class="sheet">
    <div class="row top">
      <div class="grow">
        <h1>{{ kept.title }}</h1>
        <p class="meta">
          shared with {{ kept.shared === 'everyone' ? 'everyone' : 'nobody yet' }} · kept by
          {{ kept.owner.title
          }}<template v-if="kept.description"> · {{ kept.description }}</template
          ><b v-if="changed" class="warn"> · not kept yet</b>
        </p>
      </div>
      <div class="acts">
        <Button severity="secondary" v-if="changed" @click="putBack" label="Put back" />
        <Button
          severity="secondary"
          v-if="session.mayEdit && !kept.mayEdit"
          @click="copy"
          label="Keep as new"
        />
        <Button
          severity="secondary"
          v-if="kept.mayEdit"
          @click="renaming = true"
          label="Rename, share"
        />
        <Button
          severity="secondary"
          v-if="kept.mayEdit && !changed"
          @click="discard"
          label="Delete"
        />
        <Button
          severity="secondary"
          v-if="kept.mayEdit"
          :aria-pressed="arranging"
          @click="arrange(!arranging)"
          :label="arranging ? 'Arranged' : 'Arrange'"
        />
        <Button
          v-if="kept.mayEdit"
          :severity="changed ? 'secondary' : undefined"
          label="Add widget"
          @click="adding = true"
        />
        <Button v-if="kept.mayEdit && changed" @click="keep" label="Keep" />
      </div>
    </div>
    <p v-if="widgets.length === 0" class="blank">
      Here figures, bars, courses and lists would stand. Each widget shows a measure or the answers
      of a query.
    </p>
    <div ref="host" :class="['grid-stack', { arranging }]">
      <div
        v-for="widget in widgets"
        :key="widget.id"
        class="grid-stack-item"
        :gs-id="widget.id"
        :gs-x="widget.x"
        :gs-y="widget.y"
        :gs-w="widget.w"
        :gs-h="widget.h"
      >
        <article class="grid-stack-item-content widget" :aria-label="widget.title">
          <div
            class="row widget-head"
            :tabindex="arranging ? 0 : undefined"
            :role="arranging ? 'group' : undefined"
            :aria-label="
              arranging
                ? `${widget.title}: arrows move it, with Shift they change its size`
                : undefined
            "
            @keydown="keys($event, widget)"
          >
            <h2 class="grow cut">{{ widget.title }}</h2>
            <Button
              variant="link"
              v-if="arranging"
              :aria-label="`Take ${widget.title} away`"
              @click="remove(widget)"
              label="take away"
            />
          </div>
          <WidgetBody
            :widget="widget"
            :measure="measureOf(widget)"
            :query="queryOf(widget)"
            :round="round"
          />
        </article>
      </div>
    </div>
    <AddWidget
      v-if="adding"
      :measures="measures"
      :queries="queries"
      @close="adding = false"
      @add="addWidget"
      @measured="measures = [...measures, $event]"
    />
    <KeepAs
      v-if="renaming"
      what="dashboard"
      :title="kept.title"
      :description="kept.description"
      :shared="kept.shared"
      :keep="rename"
      @close="renaming = false"
    />
  </section>
</template>

<style>
.top {
  align-items: flex-start;
}
.grid-stack {
  border-top: 1px solid var(--hair);
  margin: 0 -14px;
}
.grid-stack > .grid-stack-item > .widget {
  border-bottom: 1px solid var(--hair);
  border-right: 1px solid var(--hair);
  padding: 10px 14px;
  display: flex;
  flex-direction: column;
  overflow: hidden !important;
  inset: 0;
}
.widget h2 {
  font-size: 16px;
}
.arranging .widget {
  background: var(--wash);
}
.arranging .widget-head {
  cursor: grab;
}
.grid-stack-placeholder > .placeholder-content {
  background: none !important;
  border: 1px dashed var(--rule);
}
</style>
