export { addEdit, fold, replaceAt, restingOn, same, valueAt, type Change, type Edit } from './change.ts'
export { apply, diff, type Difference } from './diff.ts'
export {
  DefinitionsDocument, emptyDocument, fieldKinds, inOrder, prefixes, sections, sectionWords,
  type Family, type Field, type FieldKind, type ItemType, type Ladder, type LinkKind, type Option, type Ordered, type Priority, type Rulebook, type RulebookEntry, type Section, type Status,
} from './document.ts'
export { makeIdentity } from './identity.ts'
export { impact, inWords, type Touched, type Usage } from './impact.ts'
export { orderBetween, orderKeys } from './order.ts'
export { defaultPriority, entriesOf, flowOf, formOf, movesFrom, rungsOf, typesOf, type Flow, type FormField } from './rulebook.ts'
export { typeOfField, vocabularyOf, type Living } from './vocabulary.ts'
export { validate, type Problem } from './validate.ts'
