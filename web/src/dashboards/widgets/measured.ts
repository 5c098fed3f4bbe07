import type { SavedMeasure, Widget } from '@bluestem/core/dashboards'

/** What a widget is given that shows a measure. */
export interface MeasuredWidget {
  widget: Widget
  measure: SavedMeasure
  /** counts how often the dashboard is asked anew */
  round?: number | undefined
}
