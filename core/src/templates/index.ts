export {
  NewTemplate,
  TemplateChange,
  TemplateUse,
  TemplateApplication,
  TemplateSource,
} from './schema.ts'
export { templateTypes } from './template.ts'
export { blanksOf, fillInto, fillTemplate, type Filled, type Filling } from './fill.ts'
export { mendTemplate } from './mend.ts'
export { staleParts, type Stale, type TemplateGround } from './stale.ts'
export { TemplateContent } from './content.ts'
