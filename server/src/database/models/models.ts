import type { Sequelize } from 'sequelize'
import { defineAbsence } from './absence.ts'
import { defineAnswered } from './answered.ts'
import { defineAttempt } from './attempt.ts'
import { defineAudit } from './audit.ts'
import { defineBulkChange } from './bulkChange.ts'
import { defineCalendar } from './calendar.ts'
import { defineComment } from './comment.ts'
import { defineComponent } from './component.ts'
import { defineCurrentEdition } from './currentEdition.ts'
import { defineDraft } from './draft.ts'
import { defineEdition } from './edition.ts'
import { defineFollower } from './follower.ts'
import { defineImportFile } from './importFile.ts'
import { defineIteration } from './iteration.ts'
import { defineJob } from './job.ts'
import { defineLabel } from './label.ts'
import { defineLabelRecent } from './labelRecent.ts'
import { defineJot } from './jot.ts'
import { defineLink } from './link.ts'
import { defineLiving } from './living.ts'
import { defineLook } from './look.ts'
import { defineMapping } from './mapping.ts'
import { defineOutbox } from './outbox.ts'
import { definePerson } from './person.ts'
import { defineProject } from './project.ts'
import { defineProjectMember } from './projectMember.ts'
import { defineRelease, defineReleaseProject } from './release.ts'
import { defineRulebookKeeper } from './rulebookKeeper.ts'
import { defineRulebookKeeping } from './rulebookKeeping.ts'
import { defineSaved } from './saved.ts'
import { defineSession } from './session.ts'
import { defineSetting } from './setting.ts'
import { defineInvitation } from './invitation.ts'
import { defineMerge } from './merge.ts'
import { defineSubscription } from './subscription.ts'
import { defineTeam } from './team.ts'
import { defineTeamMember } from './teamMember.ts'
import { defineTemplate } from './template.ts'
import {
  defineDefined,
  defineFamily,
  defineField,
  defineOption,
  defineStatus,
} from './vocabulary.ts'

/** Every table of fixed columns. Items have columns that editions add; they are read and written in `items`. */
const defineTables = (database: Sequelize) => ({
  answered: defineAnswered(database),
  attempt: defineAttempt(database),
  audit: defineAudit(database),
  bulkChange: defineBulkChange(database),
  calendar: defineCalendar(database),
  comment: defineComment(database),
  component: defineComponent(database),
  currentEdition: defineCurrentEdition(database),
  dashboard: defineSaved(database, 'dashboard'),
  draft: defineDraft(database),
  edition: defineEdition(database),
  family: defineFamily(database),
  field: defineField(database),
  fieldOption: defineOption(database),
  follower: defineFollower(database),
  importFile: defineImportFile(database),
  itemType: defineDefined(database, 'item_type'),
  iteration: defineIteration(database),
  job: defineJob(database),
  label: defineLabel(database),
  labelRecent: defineLabelRecent(database),
  absence: defineAbsence(database),
  jot: defineJot(database),
  link: defineLink(database),
  linkKind: defineDefined(database, 'link_kind'),
  living: defineLiving(database),
  look: defineLook(database),
  mapping: defineMapping(database),
  measure: defineSaved(database, 'measure'),
  outbox: defineOutbox(database),
  person: definePerson(database),
  priority: defineDefined(database, 'priority'),
  project: defineProject(database),
  projectMember: defineProjectMember(database),
  query: defineSaved(database, 'query'),
  release: defineRelease(database),
  releaseProject: defineReleaseProject(database),
  subscription: defineSubscription(database),
  invitation: defineInvitation(database),
  merge: defineMerge(database),
  rulebookKeeper: defineRulebookKeeper(database),
  rulebookKeeping: defineRulebookKeeping(database),
  session: defineSession(database),
  setting: defineSetting(database),
  status: defineStatus(database),
  team: defineTeam(database),
  teamMember: defineTeamMember(database),
  template: defineTemplate(database),
  view: defineSaved(database, 'view'),
})

export type Models = ReturnType<typeof defineTables>

const modelsByDatabase = new WeakMap<Sequelize, Models>()

/** Defines every model on a connection, and what belongs to what. */
export function defineModels(database: Sequelize): void {
  const models = defineTables(database)
  associate(models)
  modelsByDatabase.set(database, models)
}

/** The models of a connection. */
export function modelsOf(database: Sequelize): Models {
  const models = modelsByDatabase.get(database)
  if (!models) throw new Error('this connection was not opened by connect()')
  return models
}

function associate(models: Models): void {
  const { calendar, component, edition, family, fieldOption, label, person, project } = models
  label.belongsTo(family, { as: 'family', foreignKey: 'familyNumber', targetKey: 'number' })
  label.belongsTo(project, { as: 'project', foreignKey: 'projectId' })
  component.belongsTo(project, { as: 'project', foreignKey: 'projectId' })
  component.belongsTo(person, { as: 'keeper', foreignKey: 'keeperId' })
  project.belongsTo(calendar, { as: 'calendar', foreignKey: 'calendarId' })
  project.hasMany(models.projectMember, { as: 'members', foreignKey: 'projectId' })
  models.team.belongsTo(calendar, { as: 'calendar', foreignKey: 'calendarId' })
  models.team.hasMany(models.teamMember, { as: 'members', foreignKey: 'teamId' })
  models.template.belongsTo(project, { as: 'project', foreignKey: 'projectId' })
  models.iteration.belongsTo(models.team, { as: 'team', foreignKey: 'teamId' })
  models.release.belongsToMany(project, {
    as: 'projects',
    through: models.releaseProject,
    foreignKey: 'releaseId',
    otherKey: 'projectId',
  })
  models.rulebookKeeper.belongsTo(person, { as: 'person', foreignKey: 'personId' })
  fieldOption.belongsTo(models.field, {
    as: 'field',
    foreignKey: 'fieldNumber',
    targetKey: 'number',
  })
  edition.belongsTo(person, { as: 'by', foreignKey: 'byId' })
  for (const saved of [models.query, models.view, models.measure, models.dashboard])
    saved.belongsTo(person, { as: 'owner', foreignKey: 'ownerId' })
}
