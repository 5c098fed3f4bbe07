import { bounds, type Filter, type QueryError, type Scalar } from './tree/tree.ts'

/** How large a tree is: its levels as its JSON has them, its nodes, and the members of all its lists. */
interface Size {
  depth: number
  nodes: number
  members: number
}

type Node = Filter | Scalar

function partsOf(node: Node): readonly Node[] {
  switch (node.kind) {
    case 'and':
    case 'or':
    case 'call':
      return node.args
    case 'not':
      return [node.arg]
    case 'compare':
    case 'array':
      return 'items' in node ? node.items : [node.left, node.right]
    case 'temporal':
    case 'arithmetic':
      return [node.left, node.right]
    case 'like':
      return [node.value, node.pattern]
    case 'between':
      return [node.value, node.low, node.high]
    case 'in':
      return [node.value, ...node.list]
    case 'isNull':
    case 'fold':
      return [node.value]
    case 'interval':
      return [node.start, node.end].flatMap((end) => end ?? [])
    case 'condition':
      return [node.filter]
    default:
      return []
  }
}

const membersOf = (node: Node): number =>
  node.kind === 'in'
    ? node.list.length
    : node.kind === 'array' && 'items' in node
      ? node.items.length
      : 0

function measure(node: Node, depth: number, size: Size): void {
  size.depth = Math.max(size.depth, depth)
  size.nodes += 1
  size.members += membersOf(node)
  for (const part of partsOf(node)) measure(part, depth + 1, size)
}

/**
 * Says why a filter is too large to run, whichever way it came: what is accepted can be kept and read back.
 * Members of lists are counted apart from other nodes, for a list may hold many.
 *
 * @returns the error, or undefined when the filter keeps within the bounds
 */
export function tooLarge(filter: Filter): QueryError | undefined {
  const size: Size = { depth: 0, nodes: 0, members: 0 }
  measure(filter, 0, size)
  const whole = {
    from: filter.at.from,
    to: filter.at.to,
    ...(filter.at.pointer === undefined ? {} : { pointer: filter.at.pointer }),
  }
  if (size.depth > bounds.depth)
    return {
      ...whole,
      message: `This query is nested deeper than ${bounds.depth} levels; every sign of a long sum is a level. Put brackets around parts of it, or split it.`,
      expected: `at most ${bounds.depth} levels`,
      found: `${size.depth} levels`,
    }
  if (size.members > bounds.members)
    return {
      ...whole,
      message: `The lists of this query hold ${size.members} values; at most ${bounds.members} are read.`,
      expected: `at most ${bounds.members} values`,
      found: `${size.members} values`,
    }
  const nodes = size.nodes - size.members
  if (nodes > bounds.nodes)
    return {
      ...whole,
      message: `This query has ${nodes} parts; at most ${bounds.nodes} are read.`,
      expected: `at most ${bounds.nodes} parts`,
      found: `${nodes} parts`,
    }
  return undefined
}
