import type { TemplateContent } from '@bluestem/core/templates'

/** What one item of a template begins with. */
export type TemplateNode = TemplateContent['item']

/** A key for a new child that no other child has. */
export function nextKey(children: TemplateContent['children']): string {
  for (let number = children.length + 1; ; number += 1)
    if (!children.some((child) => child.key === `c${number}`)) return `c${number}`
}

/** The content without a child: what stood below it stands below its parent, and its links go. */
export function withoutChild(content: TemplateContent, key: string): TemplateContent {
  const gone = content.children.find((child) => child.key === key)
  const children = content.children
    .filter((child) => child.key !== key)
    .map(({ under, ...rest }) => {
      const above = under === key ? gone?.under : under
      return above === undefined ? rest : { ...rest, under: above }
    })
  return {
    item: content.item,
    children,
    links: content.links.filter((link) => link.from !== key && link.to !== key),
  }
}
