import type { TemplateContent } from '@bluestem/core/templates'
import type { Sequelize } from 'sequelize'
import { modelsOf } from '../database/models/models.ts'
import { audit } from '../sql/audit.ts'

const item = (
  title: string,
  type: string,
  values: Record<string, unknown> = {},
  fields: Record<string, unknown> = {},
  description?: string,
): TemplateContent['item'] => ({
  title,
  type: `ty_${type}`,
  values,
  fields,
  ...(description ? { description } : {}),
})
const inDays = (days: number): object => ({ in: days, unit: 'working days' })

/** The winter refit still lays vessels up at a berth that was retired, and nobody was told. */
const templates: Readonly<
  Record<
    string,
    {
      title: string
      description: string
      rulebook?: string
      project?: string
      usedDaysAgo: number
      content: TemplateContent
    }
  >
> = {
  te_refit: {
    usedDaysAgo: 371,
    title: 'Winter refit',
    description: 'One vessel out of the water, from laying up to the trial.',
    project: 'YARD',
    content: {
      item: item(
        'Winter refit of [[vessel]]',
        'programme',
        { priority: 'pi_convenient', due: inDays(90), labels: ['la_free4'] },
        {},
        'Lay up [[vessel]], work through hull and engine, and sail her again before the season.',
      ),
      children: [
        {
          key: 'hull',
          ...item('Hull of [[vessel]]', 'package', { due: inDays(40) }, { safety_relevant: true }),
        },
        { key: 'engine', ...item('Engine of [[vessel]]', 'package', { due: inDays(60) }) },
        {
          key: 'layup',
          under: 'hull',
          ...item(
            'Lay up [[vessel]]',
            'job',
            { due: inDays(5), estimate: 16 },
            { berth: 'op_berth08' },
          ),
        },
        {
          key: 'paint',
          under: 'hull',
          ...item('Blast and paint [[vessel]]', 'job', { due: inDays(30), estimate: 40 }),
        },
        {
          key: 'trial',
          ...item(
            'Sea trial of [[vessel]]',
            'job',
            { due: inDays(85), estimate: 8 },
            { wind_window: 'op_wind03' },
          ),
        },
      ],
      links: [
        { kind: 'lk_waits', from: 'paint', to: 'layup' },
        { kind: 'lk_waits', from: 'trial', to: 'paint' },
      ],
    },
  },
  te_quick: {
    usedDaysAgo: 1,
    title: 'Quick fix',
    description: 'Mended on the spot, told afterwards.',
    rulebook: 'rb_yard',
    content: {
      item: item(
        '[[What]] mended on [[vessel]]',
        'defect',
        { priority: 'pi_nuisance', assignee: 'me', estimate: 1 },
        { found_by: 'op_found01', safety_relevant: false },
      ),
      children: [],
      links: [],
    },
  },
  te_month: {
    usedDaysAgo: 9,
    title: 'Monthly round',
    description: 'The safety office’s round of one vessel.',
    rulebook: 'rb_safety',
    content: {
      item: item('Monthly round of [[vessel]]', 'inspection', { due: inDays(10) }, {}),
      children: ['Extinguishers', 'Life jackets', 'Emergency lighting', 'Gangway rails'].map(
        (title, index) => ({ key: `c${index + 1}`, ...item(title, 'check', { due: inDays(10) }) }),
      ),
      links: [],
    },
  },
  te_fare: {
    usedDaysAgo: 74,
    title: 'New season of fares',
    description: 'What has to be done each time prices change.',
    rulebook: 'rb_digital',
    content: {
      item: item('Fares of [[season]]', 'package', { priority: 'pi_next' }),
      children: [
        { key: 'app', ...item('Prices in the app', 'change', { due: inDays(15), estimate: 3 }) },
        {
          key: 'machines',
          ...item('Prices in the machines', 'change', { due: inDays(20), estimate: 5 }),
        },
      ],
      links: [{ kind: 'lk_waits', from: 'machines', to: 'app' }],
    },
  },
}

const daysBefore = (now: Date, days: number): Date => new Date(now.getTime() - days * 86_400_000)

async function keepAllTemplates(database: Sequelize, now: Date): Promise<void> {
  for (const [id, template] of Object.entries(templates)) {
    const { title, description, rulebook = null, project = null, usedDaysAgo, content } = template
    const owner = project
      ? await modelsOf(database).project.findOne({ where: { code: project } })
      : null
    await modelsOf(database).template.create({
      identity: id,
      title,
      description,
      rulebook,
      projectId: owner?.id ?? null,
      content,
      changedAt: daysBefore(now, 400),
      changedBy: 1,
      usedAt: daysBefore(now, usedDaysAgo),
    })
  }
}

/** Who keeps a rulebook, a project and a component. */
async function keepKeepers(database: Sequelize): Promise<void> {
  const { component, project, projectMember, rulebookKeeper } = modelsOf(database)
  await rulebookKeeper.bulkCreate([
    { rulebook: 'rb_yard', personId: 2 },
    { rulebook: 'rb_safety', personId: 35 },
  ])
  const yard = await project.findOne({ where: { code: 'YARD' }, rejectOnEmpty: true })
  await projectMember.update({ keeper: true }, { where: { projectId: yard.id, personId: 2 } })
  const description = 'The crane on the slip; out of service above force 6.'
  await component.update({ keeperId: 2, description }, { where: { title: 'Shore crane' } })
}

type Window = readonly [from: string, to: string]

const weekday: Window[] = [
  ['06:00', '14:00'],
  ['14:30', '22:00'],
]
const saturday: Window[] = [['06:00', '12:00']]

/** The yard works in shifts, on Saturdays too, and closes at the end of the year. */
async function keepYardCalendar(database: Sequelize, now: Date): Promise<void> {
  const hours = { 1: weekday, 2: weekday, 3: weekday, 4: weekday, 5: weekday, 6: saturday }
  const daysOff = ['12-24', '12-31'].map((day) => ({
    day: `${now.getUTCFullYear()}-${day}`,
    title: 'Yard closed',
  }))
  const { calendar, project } = modelsOf(database)
  const yard = await calendar.create({ identity: 'ca_yard', title: 'Yard shifts', hours, daysOff })
  await project.update({ calendarId: yard.id }, { where: { code: ['YARD', 'PIER'] } })
}

/** What Tom proposed, which waits for the keepers. */
async function keepProposal(database: Sequelize, now: Date): Promise<void> {
  const title = 'Say what counts as safety relevant'
  const change = {
    id: 'ch_proposal',
    by: 'pe_02',
    at: now.toISOString(),
    path: ['fields', 'fi_safety', 'description'],
    before: 'Whether the safety office has to be told.',
    after:
      'Whether the safety office has to be told: anything between passengers and the water, fire, or the way out.',
  }
  const { currentEdition, draft } = modelsOf(database)
  const current = await currentEdition.findOne({ rejectOnEmpty: true })
  await draft.create({
    identity: 'dr_proposal',
    title,
    base: current.number,
    changes: [change],
    proposed: true,
    madeBy: 2,
    madeAt: now,
  })
  const after = { title, changes: 1 }
  await audit(database, 2, 'proposed', 'draft dr_proposal', { after }, now)
}

/** Keeps the demo's templates, the keepers of its rulebooks and projects, the yard's calendar, and what Tom proposed. */
export async function keepTemplates(database: Sequelize, now: Date): Promise<void> {
  await keepAllTemplates(database, now)
  await keepKeepers(database)
  await keepYardCalendar(database, now)
  await keepProposal(database, now)
}
