<script setup lang="ts">
import { certain } from '@bluestem/core/known'
import type { SavedQuery } from '@bluestem/core/queries'
import Button from 'primevue/button'
import 'gridstack/dist/gridstack.min.css'
import { GridStack, type GridStackNode } from 'gridstack'
import { computed, nextTick, onBeforeUnmount, onMounted, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import type {
  DashboardContent,
  Widget,
  SavedDashboard,
  SavedMeasure,
} from '@bluestem/core/dashboards'
import { ApiProblem, call } from '../api/http.ts'
import { whenChanged } from '../api/whenChanged.ts'
import { useSession } from '../app/session.store.ts'
import KeepAs from '../parts/KeepAs.vue'
import { useNotes } from '../parts/notes.store.ts'
import AddWidget from './AddWidget.vue'
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
const arranging = ref(false)
const adding = ref(false)
const renaming = ref(false)
const host = ref<HTMLElement>()
let grid: GridStack | undefined
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
    widgets.value = dashboard.content.widgets.map((widget) => ({ ...widget }))
    await nextTick()
    lay()
  } catch (error) {
    missing.value = error instanceof ApiProblem ? error.message : String(error)
  }
})

/** Gives the grid to the library that lays it out; widgets move and change size only while arranging. */
function lay(): void {
  if (!host.value) return
  const nonce = document.querySelector<HTMLMetaElement>('meta[property=csp-nonce]')?.nonce
  const made = GridStack.init(
    {
      column: 12,
      cellHeight: 60,
      margin: 0,
      animate: false,
      disableDrag: true,
      disableResize: true,
      handle: '.widget-head',
      ...(nonce ? { nonce } : {}),
    },
    host.value,
  )
  if (!made) return
  grid = made
  made.on('change', (_: Event, nodes: GridStackNode[]) => {
    const moved = new Map(nodes.map((node) => [node.id, node]))
    widgets.value = widgets.value.map((widget) => {
      const node = moved.get(widget.id)
      return node
        ? {
            ...widget,
            x: node.x ?? widget.x,
            y: node.y ?? widget.y,
            w: node.w ?? widget.w,
            h: node.h ?? widget.h,
          }
        : widget
    })
  })
}
onBeforeUnmount(() => grid?.destroy(false))

function arrange(on: boolean): void {
  arranging.value = on
  grid?.enableMove(on)
  grid?.enableResize(on)
}

async function add(widget: Omit<Widget, 'id' | 'x' | 'y'>): Promise<void> {
  adding.value = false
  const y = Math.max(0, ...widgets.value.map((one) => one.y + one.h))
  const made: Widget = { ...widget, id: crypto.randomUUID().slice(0, 8), x: 0, y }
  widgets.value = [...widgets.value, made]
  await nextTick()
  const element = host.value?.querySelector<HTMLElement>(`[gs-id="${made.id}"]`)
  if (element) grid?.makeWidget(element)
  arrange(true)
  element?.scrollIntoView({ block: 'nearest' })
}

function remove(widget: Widget): void {
  const element = host.value?.querySelector<HTMLElement>(`[gs-id="${widget.id}"]`)
  if (element) grid?.removeWidget(element, false)
  widgets.value = widgets.value.filter((one) => one.id !== widget.id)
}

/** A widget moves and changes size by keyboard too: arrows, with Shift for size. */
function keys(event: KeyboardEvent, widget: Widget): void {
  const by: Record<string, [number, number]> = {
    ArrowLeft: [-1, 0],
    ArrowRight: [1, 0],
    ArrowUp: [0, -1],
    ArrowDown: [0, 1],
  }
  const step = by[event.key]
  const element = host.value?.querySelector<HTMLElement>(`[gs-id="${widget.id}"]`)
  if (!arranging.value || !step || !element) return
  event.preventDefault()
  if (event.shiftKey)
    grid?.update(element, {
      w: Math.min(12, Math.max(2, widget.w + step[0])),
      h: Math.max(1, widget.h + step[1]),
    })
  else
    grid?.update(element, {
      x: Math.min(12 - widget.w, Math.max(0, widget.x + step[0])),
      y: Math.max(0, widget.y + step[1]),
    })
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
    widgets.value = body.content.widgets.map((widget) => ({ ...widget }))
    arrange(false)
    notes.show('well', 'Kept.')
  })
}

async function putBack(): Promise<void> {
  grid?.destroy(false)
  widgets.value = []
  await nextTick()
  widgets.value = saved().content.widgets.map((widget) => ({ ...widget }))
  await nextTick()
  arranging.value = false
  lay()
}

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
  measures.value.find((one) => one.id === widget.measure)
const queryOf = (widget: Widget): SavedQuery | undefined =>
  queries.value.find((one) => one.id === (widget.query ?? measureOf(widget)?.content.query))
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
      @add="add"
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
