import { type Static, Type } from 'typebox'

const kinds = [
  'count',
  'sum',
  'mean',
  'median',
  'percentile',
  'least',
  'greatest',
  'cycle_time',
  'lead_time',
  'throughput',
] as const
export type FigureKind = (typeof kinds)[number]
/** Figures of the state of work; the others are figures of events, of entries into done. */
export const stateFigures: readonly FigureKind[] = [
  'count',
  'sum',
  'mean',
  'median',
  'percentile',
  'least',
  'greatest',
]
/** Figures that need a number field. */
export const fieldFigures: readonly FigureKind[] = [
  'sum',
  'mean',
  'median',
  'percentile',
  'least',
  'greatest',
]

const handle = Type.String({ maxLength: 60 })
const day = Type.String({ pattern: '^\\d{4}-\\d{2}-\\d{2}$' })

export const Figure = Type.Object(
  {
    kind: Type.Enum([...kinds]),
    field: Type.Optional(handle),
    p: Type.Optional(Type.Number({ minimum: 0, maximum: 100 })),
    stat: Type.Optional(Type.Enum(['mean', 'median', 'percentile', 'least', 'greatest'])),
  },
  { additionalProperties: false, title: 'Figure' },
)
export type Figure = Static<typeof Figure>

export const Over = Type.Object(
  { from: day, to: day, step: Type.Enum(['day', 'week', 'month']) },
  { additionalProperties: false, title: 'Span and step' },
)
export type Over = Static<typeof Over>

/** A measure as it is kept: one figure over one saved query. */
export const MeasureContent = Type.Object(
  {
    query: Type.String(),
    figure: Figure,
    unit: Type.String({ maxLength: 30 }),
    better: Type.Union([Type.Literal('less'), Type.Literal('more'), Type.Null()]),
    target: Type.Union([Type.Number(), Type.Null()]),
  },
  { additionalProperties: false, title: 'Measure' },
)
export type MeasureContent = Static<typeof MeasureContent>

export const Evaluate = Type.Object(
  {
    measure: Type.Optional(Type.String()),
    filter: Type.Optional(Type.Unknown()),
    'filter-lang': Type.Optional(
      Type.Union([Type.Literal('cql2-text'), Type.Literal('cql2-json')]),
    ),
    kept: Type.Optional(Type.Boolean({ description: 'choices in the JSON are identities' })),
    figure: Type.Optional(Figure),
    by: Type.Optional(Type.Array(handle, { maxItems: 1 })),
    over: Type.Optional(Over),
    asOf: Type.Optional(Type.String({ maxLength: 40 })),
  },
  { additionalProperties: false, title: 'What to measure' },
)
export type Evaluate = Static<typeof Evaluate>

/** One value of a grouping: a choice by identity and title, or null where the field is empty. */
export interface Key {
  readonly id: string
  readonly title: string
}

export interface MeasureAnswer {
  readonly unit: string
  readonly by: readonly string[]
  readonly steps: readonly string[]
  readonly groups: readonly {
    readonly key: readonly (Key | null)[]
    readonly values: readonly (number | null)[]
  }[]
  readonly total: readonly (number | null)[]
  /** how it was computed: `present`, `as of`, `course` (one pass over history) or `steps` (asked at each step's end, slower) */
  readonly method: 'present' | 'as of' | 'course' | 'steps' | 'events'
  /** the kept filter behind the figure, from which the items of any cell are asked */
  readonly filter: unknown
}

export const widgetKinds = ['figure', 'bars', 'course', 'list'] as const
const cell = (largest: number) => Type.Integer({ minimum: 0, maximum: largest })
export const Widget = Type.Object(
  {
    id: Type.String({ pattern: '^[a-z0-9]{1,24}$' }),
    kind: Type.Enum([...widgetKinds]),
    title: Type.String({ maxLength: 120 }),
    measure: Type.Optional(Type.String()),
    query: Type.Optional(Type.String()),
    by: Type.Optional(handle),
    span: Type.Optional(
      Type.Object(
        { days: Type.Integer({ minimum: 1, maximum: 1100 }), step: Over.properties.step },
        { additionalProperties: false },
      ),
    ),
    x: cell(11),
    y: cell(500),
    w: Type.Integer({ minimum: 1, maximum: 12 }),
    h: Type.Integer({ minimum: 1, maximum: 24 }),
  },
  { additionalProperties: false, title: 'Widget' },
)
export type Widget = Static<typeof Widget>

export const DashboardContent = Type.Object(
  { widgets: Type.Array(Widget, { maxItems: 60 }) },
  { additionalProperties: false, title: 'Dashboard' },
)
export type DashboardContent = Static<typeof DashboardContent>
