export {
  NewTemplate,
  TemplateChange,
  TemplateUse,
  TemplateApplication,
  TemplateSource,
} from './schema.ts'
export {
  blanksOf,
  fillInto,
  fillTemplate,
  mendTemplate,
  staleParts,
  TemplateContent,
  templateTypes,
  type Filled,
  type Filling,
  type Stale,
  type TemplateGround,
} from './template.ts'
