import type { Widget } from '@bluestem/core/dashboards'
import { GridStack, type GridStackNode } from 'gridstack'
import { nextTick, onBeforeUnmount, type Ref, ref } from 'vue'

/** How many columns a dashboard has, and how narrow a widget may be. */
const [columns, narrowest] = [12, 2]
const between = (least: number, value: number, most: number): number =>
  Math.min(most, Math.max(least, value))

/** The widgets where the library put those that moved. */
function moved(widgets: readonly Widget[], nodes: readonly GridStackNode[]): Widget[] {
  const byId = new Map(nodes.map((node) => [node.id, node]))
  return widgets.map((widget) => {
    const { x = widget.x, y = widget.y, w = widget.w, h = widget.h } = byId.get(widget.id) ?? {}
    return { ...widget, x, y, w, h }
  })
}

/** Lays out the elements of a page. @param move is told those that moved */
function layOut(host: HTMLElement, move: (nodes: GridStackNode[]) => void): GridStack | undefined {
  const nonce = document.querySelector<HTMLMetaElement>('meta[property=csp-nonce]')?.nonce
  const grid = GridStack.init(
    {
      column: columns,
      cellHeight: 60,
      margin: 0,
      animate: false,
      disableDrag: true,
      disableResize: true,
      handle: '.widget-head',
      ...(nonce ? { nonce } : {}),
    },
    host,
  )
  grid?.on('change', (_: Event, nodes: GridStackNode[]) => move(nodes))
  return grid ?? undefined
}

/** What a key makes of a widget’s place: arrows move it, with Shift they change its size. */
function placeBy({ key, shiftKey }: KeyboardEvent, { x, y, w, h }: Widget) {
  const steps: Readonly<Record<string, readonly [right: number, down: number]>> = {
    ArrowLeft: [-1, 0],
    ArrowRight: [1, 0],
    ArrowUp: [0, -1],
    ArrowDown: [0, 1],
  }
  const step = steps[key]
  if (!step) return undefined
  const [right, down] = step
  return shiftKey
    ? { w: between(narrowest, w + right, columns), h: Math.max(1, h + down) }
    : { x: between(0, x + right, columns - w), y: Math.max(0, y + down) }
}

/** Widgets on a grid, which move and change size only while they are arranged. */
export function useGrid(widgets: Ref<Widget[]>) {
  const host = ref<HTMLElement>()
  const arranging = ref(false)
  let grid: GridStack | undefined
  const elementOf = ({ id }: Widget): HTMLElement | null | undefined =>
    host.value?.querySelector<HTMLElement>(`[gs-id="${id}"]`)

  /** Gives the grid to the library that lays it out. */
  function lay(): void {
    if (host.value)
      grid = layOut(host.value, (nodes) => (widgets.value = moved(widgets.value, nodes)))
  }
  onBeforeUnmount(() => grid?.destroy(false))

  function arrange(on: boolean): void {
    arranging.value = on
    grid?.enableMove(on)
    grid?.enableResize(on)
  }

  /** Puts a new widget below all others, and lets it be arranged. */
  async function add(widget: Omit<Widget, 'id' | 'x' | 'y'>): Promise<void> {
    const y = Math.max(0, ...widgets.value.map((widget) => widget.y + widget.h))
    const made: Widget = { ...widget, id: crypto.randomUUID().slice(0, 8), x: 0, y }
    widgets.value = [...widgets.value, made]
    await nextTick()
    const element = elementOf(made)
    if (element) grid?.makeWidget(element)
    arrange(true)
    element?.scrollIntoView({ block: 'nearest' })
  }

  function remove(widget: Widget): void {
    const element = elementOf(widget)
    if (element) grid?.removeWidget(element, false)
    widgets.value = widgets.value.filter((entry) => entry.id !== widget.id)
  }

  /** Lays other widgets out in the place of those that are there. */
  async function replace(others: readonly Widget[]): Promise<void> {
    grid?.destroy(false)
    widgets.value = []
    await nextTick()
    widgets.value = [...others]
    await nextTick()
    arranging.value = false
    lay()
  }

  /** A widget moves and changes size by keyboard too. */
  function keys(event: KeyboardEvent, widget: Widget): void {
    const place = placeBy(event, widget)
    const element = elementOf(widget)
    if (!arranging.value || !place || !element) return
    event.preventDefault()
    grid?.update(element, place)
  }

  return { host, arranging, lay, arrange, add, remove, replace, keys }
}
