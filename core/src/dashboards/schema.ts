import { widgetKinds } from './widgetKinds.ts'
import { type Static, Type } from 'typebox'
import { savedSchemas, SavedUsage } from '../saved/schema.ts'
import {
  type Immutable,
  type Answer,
  answer,
  type Contracts,
  orNull,
  reference,
} from '../schema/index.ts'

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
export type Figure = Immutable<Static<typeof Figure>>

export const Over = Type.Object(
  { from: day, to: day, step: Type.Enum(['day', 'week', 'month']) },
  { additionalProperties: false, title: 'Span and step' },
)
export type Over = Immutable<Static<typeof Over>>

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
export type MeasureContent = Immutable<Static<typeof MeasureContent>>

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
const Key = answer('A value of a grouping', reference)

export const MeasureAnswer = answer('A measure evaluated', {
  unit: Type.String(),
  by: Type.Array(Type.String()),
  steps: Type.Array(Type.String()),
  groups: Type.Array(
    answer('A group of a measure', {
      key: Type.Array(orNull(Key)),
      values: Type.Array(orNull(Type.Number())),
    }),
  ),
  total: Type.Array(orNull(Type.Number())),
  method: Type.Enum(['present', 'as of', 'course', 'steps', 'events'], {
    description:
      'how it was computed: a course is one pass over history, steps are asked one by one and slower',
  }),
  filter: Type.Unknown({
    description: 'the kept filter behind the figure, from which the items of any cell are asked',
  }),
})
export type Key = Answer<typeof Key>
export type MeasureAnswer = Answer<typeof MeasureAnswer>

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
export type Widget = Immutable<Static<typeof Widget>>

export const DashboardContent = Type.Object(
  { widgets: Type.Array(Widget, { maxItems: 60 }) },
  { additionalProperties: false, title: 'Dashboard' },
)
export type DashboardContent = Immutable<Static<typeof DashboardContent>>

const measure = savedSchemas('measure', MeasureContent, {})
const dashboard = savedSchemas('dashboard', DashboardContent, {})
export type SavedMeasure = Answer<typeof measure.Saved>
export type SavedDashboard = Answer<typeof dashboard.Saved>

export const dashboardContracts = {
  'POST /measures/evaluate': { body: Evaluate, answer: MeasureAnswer },
  'GET /measures': { answer: answer('Measures', { measures: Type.Array(measure.Saved) }) },
  'POST /measures': { body: measure.New, answer: measure.Saved },
  'GET /measures/{id}': { answer: measure.Saved },
  'PATCH /measures/{id}': { body: measure.Change, answer: measure.Saved },
  'DELETE /measures/{id}': {},
  'GET /measures/{id}/usage': { answer: SavedUsage },
  'GET /dashboards': { answer: answer('Dashboards', { dashboards: Type.Array(dashboard.Saved) }) },
  'POST /dashboards': { body: dashboard.New, answer: dashboard.Saved },
  'GET /dashboards/{id}': { answer: dashboard.Saved },
  'PATCH /dashboards/{id}': { body: dashboard.Change, answer: dashboard.Saved },
  'DELETE /dashboards/{id}': {},
  'GET /dashboards/{id}/usage': { answer: SavedUsage },
} satisfies Contracts
