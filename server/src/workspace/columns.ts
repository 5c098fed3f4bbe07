import {
  type DefinitionsDocument,
  fieldKind,
  type FieldKind,
  type FieldValues,
  holdsSeveral,
  inOrder,
  isComputed,
} from '@bluestem/core/definitions'

/** The fixed columns of a state, in table order; every statement names them, for publishing adds more at the end. */
export const fixedColumns = [
  'project_id',
  'status_id',
  'phase',
  'type_id',
  'priority_id',
  'assignee_id',
  'parent_id',
  'iteration_id',
  'release_id',
  'created_at',
  'changed_at',
  'by_kind',
  'by_id',
  'first_active_at',
  'first_done_at',
  'done_at',
  'due_date',
  'start_date',
  'estimate',
  'remaining',
  'number',
  'comment_count',
  'code_change_count',
  'raised_by',
  'held_since',
  'deleted',
  'on_hold',
  'position',
  'labels',
  'components',
  'link_kinds',
  'title',
  'hold_reason',
] as const

/** What the fixed columns that a change may set are made of, as a cast names it. */
const fixedTypes: Readonly<Record<string, string>> = {
  project_id: 'int',
  status_id: 'smallint',
  phase: 'smallint',
  type_id: 'smallint',
  priority_id: 'smallint',
  assignee_id: 'int',
  parent_id: 'int',
  iteration_id: 'int',
  release_id: 'int',
  due_date: 'date',
  start_date: 'date',
  estimate: 'numeric',
  remaining: 'numeric',
  number: 'int',
  comment_count: 'int',
  code_change_count: 'int',
  raised_by: 'int',
  deleted: 'boolean',
  on_hold: 'boolean',
  position: 'text',
  title: 'text',
  hold_reason: 'text',
  first_active_at: 'timestamptz(3)',
  first_done_at: 'timestamptz(3)',
  done_at: 'timestamptz(3)',
  held_since: 'timestamptz(3)',
  labels: 'int[]',
  components: 'int[]',
  link_kinds: 'int[]',
}

const columnOfValues: Readonly<Record<FieldValues, string>> = {
  text: 'text COLLATE "C"',
  number: 'numeric',
  date: 'date',
  timestamp: 'timestamptz(3)',
  boolean: 'boolean',
  option: 'int',
  person: 'int',
}

/** The type of a custom field's column; a kind that holds several is never NULL but empty. */
export function columnType(kind: FieldKind): string {
  const type = columnOfValues[fieldKind(kind).values]
  return holdsSeveral(kind) ? `${type}[] NOT NULL DEFAULT '{}'` : type
}

/** The column of a custom field: f and its number, which is never used again. */
export const fieldColumn = (number: number): string => `f${number}`

/** The columns that hold several values: labels, components, and every field of a kind that does. */
export function listColumns(
  document: DefinitionsDocument,
  numberOfField: (identity: string) => number,
): ReadonlySet<string> {
  const fields = Object.entries(document.fields)
    .filter(([, { kind }]) => holdsSeveral(kind))
    .map(([identity]) => fieldColumn(numberOfField(identity)))
  return new Set(['labels', 'components', 'link_kinds', ...fields])
}

/** The same of a world, by what its columns are made of. */
export const listColumnsOf = ({
  columnTypes: types,
}: {
  readonly columnTypes: ReadonlyMap<string, string>
}): ReadonlySet<string> =>
  new Set([...types].filter(([, type]) => type.endsWith('[]')).map(([column]) => column))

/** What each column that a change may set is made of: the fixed ones, then one per field. */
export const typesOfColumns = (
  document: DefinitionsDocument,
  numberOfField: (identity: string) => number,
): ReadonlyMap<string, string> =>
  new Map([
    ...Object.entries(fixedTypes),
    ...Object.entries(document.fields).flatMap(([identity, { kind }]): [string, string][] =>
      isComputed(kind)
        ? []
        : [
            [
              fieldColumn(numberOfField(identity)),
              columnType(kind).replace(/ COLLATE.*| NOT NULL.*/, ''),
            ],
          ],
    ),
  ])

/** All columns of a state for an edition: the fixed ones, then one per field. */
export function stateColumns(
  document: DefinitionsDocument,
  numberOfField: (identity: string) => number,
): string[] {
  return [
    ...fixedColumns,
    ...inOrder(document.fields)
      .filter((field) => !isComputed(field.kind))
      .map((field) => fieldColumn(numberOfField(field.id))),
  ]
}
