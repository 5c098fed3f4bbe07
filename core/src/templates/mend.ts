import type { Node, TemplateContent } from './content.ts'
import { staleParts, type TemplateGround } from './stale.ts'

/** A template with every mend made that can be made without asking. */
export function mendTemplate(content: TemplateContent, ground: TemplateGround): TemplateContent {
  const mends = staleParts(content, ground)
    .filter((part) => part.mend !== null)
    .map((part) => part.pointer)
  const without = (at: string, of: Readonly<Record<string, unknown>>): Record<string, unknown> =>
    Object.fromEntries(Object.entries(of).filter(([handle]) => !mends.includes(`${at}/${handle}`)))
  const mended = <T extends Node>(at: string, node: T): T => ({
    ...node,
    values: without(`${at}/values`, node.values),
    fields: without(`${at}/fields`, node.fields),
  })
  return {
    item: mended('/item', content.item),
    children: content.children.map((child, index) => {
      const { under, ...rest } = mended(`/children/${index}`, child)
      return under === undefined || mends.includes(`/children/${index}/under`)
        ? rest
        : { ...rest, under }
    }),
    links: content.links.filter(
      (_, index) =>
        !mends.some(
          (pointer) => pointer === `/links/${index}` || pointer.startsWith(`/links/${index}/`),
        ),
    ),
  }
}
