<script setup lang="ts">
import { type SavedMeasure, type Widget, widgetKind } from '@bluestem/core/dashboards'
import { entryOf } from '@bluestem/core/known'
import type { SavedQuery } from '@bluestem/core/queries'
import { computed } from 'vue'
import { widgetBodies } from './widgetBodies.ts'

/** What a widget shows: each kind is drawn by the file of its name in `widgets`. */
const { widget, measure, query, round } = defineProps<{
  widget: Widget
  measure: SavedMeasure | undefined
  query: SavedQuery | undefined
  /** counts how often the dashboard is asked anew */
  round?: number
}>()
const missing = computed(() => {
  if (widgetKind(widget.kind).of === 'query')
    return query ? '' : 'The query behind this list may not be seen by you, or was deleted.'
  return measure ? '' : 'The measure behind this figure may not be seen by you, or was deleted.'
})
/** what it shows something of; a body knows no other */
const subject = computed(() => (widgetKind(widget.kind).of === 'query' ? { query } : { measure }))
const body = computed(() => entryOf(widgetBodies, widget.kind))
</script>

<template>
  <p v-if="missing" class="told" role="alert">{{ missing }}</p>
  <component :is="body" v-else :widget="widget" :round="round" v-bind="subject" />
</template>
