import type { Component } from 'vue'

const files = import.meta.glob<{ default: Component }>('./widgets/*.vue', { eager: true })

/** What each kind of widget looks like, by its name: `list` is drawn by `widgets/ListWidget.vue`. */
export const widgetBodies: Readonly<Record<string, Component>> = Object.fromEntries(
  Object.entries(files).map(([path, file]) => [
    path.replace(/^.*\/(.*)Widget\.vue$/, '$1').toLowerCase(),
    file.default,
  ]),
)
