import { readdirSync, readFileSync } from 'node:fs'
import { dirname, join, relative } from 'node:path'
import { describe, expect, it } from 'vitest'
import { root } from '../packages.mjs'

type Graph = ReadonlyMap<string, ReadonlySet<string>>

/** Which source files of a workspace import which others of it, at once or later, values or types. */
function importsOf(workspace: string): Graph {
  const files = readdirSync(join(root, workspace, 'src'), { recursive: true, encoding: 'utf8' })
  const sources = files
    .filter((file) => /\.(ts|vue)$/.test(file) && !file.endsWith('.test.ts'))
    .map((file) => join('src', file))
  return new Map(
    sources.map((file) => {
      const text = readFileSync(join(root, workspace, file), 'utf8')
      const named = [...text.matchAll(/(?:from|import)\s*\(?\s*'(\.[^']+)'/g)]
      const paths = named.map(([, path]) => join(dirname(file), path!))
      return [file, new Set(paths.filter((path) => sources.includes(path)))]
    }),
  )
}

/** The same by folders. */
function byFolder(graph: Graph): Graph {
  const folders = new Map<string, Set<string>>()
  for (const [file, imported] of graph) {
    const own = folders.get(dirname(file)) ?? new Set()
    folders.set(dirname(file), own)
    for (const other of imported) if (dirname(other) !== dirname(file)) own.add(dirname(other))
  }
  return folders
}

/** What remains when everything is removed that imports nothing which remains: the circles, and what rests on them. */
function circular(graph: Graph): string[] {
  const left = new Set(graph.keys())
  for (let size = -1; size !== left.size;) {
    size = left.size
    for (const node of left)
      if (![...graph.get(node)!].some((other) => left.has(other))) left.delete(node)
  }
  return [...left].map((node) => relative('src', node))
}

describe('imports run in no circle', () => {
  it('is found out: a circle of three, and what rests on it', () => {
    const graph = { a: ['b'], b: ['c'], c: ['a', 'd'], d: [], e: ['a'] }
    const found = circular(
      new Map(Object.entries(graph).map(([node, others]) => [node, new Set(others)])),
    )
    expect(found.map((node) => node.at(-1))).toEqual(['a', 'b', 'c', 'e'])
  })

  it.each(['core', 'server', 'web'])('between the files of %s', (workspace) => {
    const graph = importsOf(workspace)
    expect(graph.size).toBeGreaterThan(100)
    expect(circular(graph)).toEqual([])
  })

  it.each(['core', 'server', 'web'])('between the folders of %s', (workspace) => {
    expect(circular(byFolder(importsOf(workspace)))).toEqual([])
  })
})
