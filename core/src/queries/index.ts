export { changingWith, check } from './check.ts'
export type { Spelling } from './checkNames.ts'
export { uncheck } from './uncheck.ts'
export { describe } from './typeWords.ts'
export {
  everything,
  valuesOf,
  type CheckedCall,
  type Condition,
  type Literal,
  type Value,
  type ChangesWith,
  type Computed,
  type Domain,
  type Property,
  type Type,
} from './tree/checked.ts'
export { Decimal } from './values/decimal.ts'
export { constantOf, evaluate } from './evaluate.ts'
export type { Result, End } from './values/result.ts'
export { compareText } from './values/compare.ts'
export type { Truth } from './values/truth.ts'
export type { Facts, FactValue, ItemState, Moment } from './tree/facts.ts'
export { accenti, casei } from './values/fold.ts'
export { wordsOf } from './values/words.ts'
export { tokensOf, type Token } from './lexer.ts'
export { namesOf } from './names.ts'
export { foldsFrom, foldsTo, foldsToSeveral } from './values/casefold.generated.ts'
export {
  functionEntry,
  isSameForAll,
  functionNames,
  type FunctionName,
} from './functions/functions.ts'
export { type FunctionEntry, literalIn, type Parameter, propertyIn } from './functions/entry.ts'
export { relations, type EndComparison, type Relation, type Side } from './values/interval.ts'
export { fromJson } from './json.ts'
export { toJson, type Cql2Json } from './toJson.ts'
export { isExact } from './jsonNumber.ts'
export { endsInEscape } from './values/like.ts'
export { editDistance, nearest } from './nearest.ts'
export { isReserved, quoteName } from './name.ts'
export { parse } from './parser.ts'
export { print, quoteText } from './print.ts'
export { keptFilter, readCondition, readQuery, type ReadQuery, type Written } from './read.ts'
export { partsOf, readScore } from './score.ts'
export { clauseInWords, inOneLine, sentence, type Line, type Part } from './sentence.ts'
export {
  bounds,
  compareOps,
  type ArithmeticOp,
  type ArrayOp,
  type At,
  type CompareOp,
  type Filter,
  type Outcome,
  type QueryError,
  type Scalar,
  type TemporalOp,
} from './tree/tree.ts'
export {
  builtIns,
  iterationOffset,
  type Release,
  teamsNamed,
  teamsOf,
  type TeamRemit,
  releaseOffset,
  spell,
  type Choice,
  type QueryNames,
  type Span,
  type Vocabulary,
} from './tree/vocabulary.ts'
export { phases, type Phase } from '../definitions/document/phases.ts'
export {
  type Check,
  type CheckAnswer,
  type ItemAnswer,
  type ItemsAnswer,
  type NamedChoice,
  Order,
  type PropertyAnswer,
  QueryContent,
  queryContracts,
  type SavedQuery,
  type Search,
  type VocabularyAnswer,
} from './schema.ts'
