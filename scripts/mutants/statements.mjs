/**
 * Mistakes in locks, versions and empty values, each made once, with the tests nearest by.
 *
 * @typedef {import('./permissions.mjs').ServerMutant} ServerMutant
 */

/** @param {string} file below server/src @param {string[]} tests @param {readonly (readonly [rule: string, from: string, to: string])[]} rules @returns {ServerMutant[]} */
const of = (file, tests, rules) =>
  rules.map(([rule, from, to]) => ({ file, rule, from, to, tests }))

export const statements = [
  ...of(
    'saved/service.ts',
    ['kept', 'races'],
    [
      [
        'a saved thing is changed whatever its version',
        '    judgeMatch(match, etagOfSaved(row), { title: row.title, changedAt: row.changedAt })\n    const shared',
        '    const shared',
      ],
      [
        'a saved thing is deleted whatever its version',
        '    judgeMatch(match, etagOfSaved(row), { title: row.title, changedAt: row.changedAt })\n    const users',
        '    const users',
      ],
      ['what is used is deleted', 'if (users.length > 0)', 'if (users.length > 1000)'],
    ],
  ),
  ...of(
    'definitions/drafts.ts',
    ['drafts', 'races'],
    [
      [
        'a draft is changed whatever its version',
        '  judgeMatch(match, draftEtag(draft), { changes: draft.changes.length })\n',
        '',
      ],
    ],
  ),
  ...of(
    'templates/service.ts',
    ['templates', 'races'],
    [
      [
        'a template is changed whatever its version',
        '    judgeMatch(match, templateEtag(row), { title: row.title })\n',
        '',
      ],
    ],
  ),
  ...of(
    'sql/value.ts',
    ['differential', 'sql'],
    [
      [
        'a list of no parent is unknown',
        "property.type.kind === 'array' ? `coalesce(${read}, '{}'::int[])` : read",
        'read',
      ],
      [
        'whole numbers divide whole',
        "value.kind === 'property' ? `${this.value(value)}::numeric` : this.value(value)",
        'this.value(value)',
      ],
    ],
  ),
  ...of(
    'sql/answers.ts',
    ['sql', 'search', 'items'],
    [
      [
        'empty values come first',
        "key.nullable ? ' NULLS LAST' : ''",
        "key.nullable ? ' NULLS FIRST' : ''",
      ],
    ],
  ),
  ...of(
    'sql/measure.ts',
    ['flow', 'course'],
    [['the sum of nothing is empty', '`coalesce(sum(${value}), 0)`', '`sum(${value})`']],
  ),
  ...of(
    'sql/rollUp.ts',
    ['rollUps', 'sql'],
    [
      [
        'dropped items are shared, too',
        '`count(*) FILTER (WHERE ${alias}.phase <> 3)`',
        '`count(*)`',
      ],
      ['a share of nothing fails', 'nullif(${counted}, 0)', '${counted}'],
    ],
  ),
  ...of(
    'sql/rollUpOverTime.ts',
    ['rollUps', 'course'],
    [
      ['an empty number is no part of a total', '`coalesce(${value}, 0)`', '`${value}`'],
      [
        'a span goes on where it changed',
        "${neighbour('lag', 'valid_to')} IS NOT DISTINCT FROM",
        "${neighbour('lag', 'valid_to')} =",
      ],
    ],
  ),
  ...of(
    'sql/functions.ts',
    ['differential'],
    [
      ['a remit that cannot tell is unknown', '`coalesce(${remit}, FALSE)`', '`${remit}`'],
      [
        'changes to and from nothing are not counted',
        'z.held IS DISTINCT FROM z.before',
        'z.held <> z.before',
      ],
      ['mappings of editions count as changes', ' AND z.by_kind <> 2', ''],
    ],
  ),
  ...of(
    'items/write.ts',
    ['storage', 'edit', 'exactly'],
    [
      [
        'the hold begins again with each change',
        'coalesce(i.held_since, h.valid_to)',
        'h.valid_to',
      ],
      [
        'work begins anew',
        '${phase} = 1 THEN coalesce(i.first_active_at, h.valid_to)',
        '${phase} = 1 THEN h.valid_to',
      ],
      ['the first end is the last', 'coalesce(i.first_done_at, h.valid_to)', 'h.valid_to'],
    ],
  ),
  ...of(
    'items/place.ts',
    ['items', 'races', 'api'],
    [['numbers are given twice', 'coalesce(max(number), 0)', 'coalesce(min(number), 0)']],
  ),
]
