import Column from 'primevue/column'
import { cloneVNode, Fragment, isVNode, type VNode } from 'vue'
import type { ColumnWishes } from './columnWishes.ts'

/** The columns among what stands in a table, also those that stand there under a condition or one for each of several. */
export const columnsIn = (nodes: readonly unknown[]): VNode[] =>
  nodes.flatMap((node) => {
    if (!isVNode(node)) return []
    if (node.type === Column) return [node]
    return node.type === Fragment && Array.isArray(node.children) ? columnsIn(node.children) : []
  })

/** What heads a column; nothing where it is no word. */
export const headerOf = ({ props }: VNode): string | undefined => {
  const header: unknown = props?.['header']
  return typeof header === 'string' && header !== '' ? header : undefined
}

/** The columns as they are wanted. */
export const columnsWanted = (
  columns: readonly VNode[],
  { hidden, widths }: ColumnWishes,
): VNode[] =>
  columns.map((column) => {
    const header = headerOf(column) ?? ''
    if (hidden.includes(header)) return cloneVNode(column, { hidden: true })
    const width = widths[header]
    if (width === undefined) return column
    const pixels = `${width}px`
    const style = { width: pixels, minWidth: pixels, maxWidth: pixels, overflow: 'hidden' }
    return cloneVNode(column, { style: { ...style, textOverflow: 'ellipsis' } })
  })
