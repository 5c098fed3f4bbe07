export {
  type ApplicationAnswer,
  type FillingAnswer,
  NewTemplate,
  type Stale,
  type TemplateAnswer,
  TemplateApplication,
  TemplateChange,
  templateContracts,
  TemplateSource,
  TemplateUse,
} from './schema.ts'
export { templateTypes } from './template.ts'
export { blanksOf, fillInto, fillTemplate, type Filled, type Filling } from './fill.ts'
export { mendTemplate } from './mend.ts'
export { staleParts, type TemplateGround } from './stale.ts'
export { TemplateContent } from './content.ts'
