import { dirname, relative, resolve } from 'node:path'

/**
 * Imports run one way: a place imports itself and the places listed before it, and of other workspaces only those allowed.
 *
 * A place is a folder below `src`; the deepest one that is listed counts, and files outside all places stand on top, as tests do.
 */

/** @typedef {{ workspace: string, place: string, rank: number }} Home */

/** The deepest listed place in which a path lies. @param {string} path below `src` @param {readonly string[]} places */
const placeOf = (path, places) =>
  places.filter((place) => path.startsWith(`${place}/`)).sort((a, b) => b.length - a.length)[0]

/** Where a file stands. @param {string} file relative to the root @param {Record<string, readonly string[]>} places @returns {Home} */
function homeOf(file, places) {
  const [workspace = '', ...rest] = file.split('/')
  const listed = places[workspace] ?? []
  const isSource = rest[0] === 'src' && !file.endsWith('.test.ts')
  const place = isSource ? placeOf(rest.slice(1).join('/'), listed) : undefined
  return place === undefined
    ? { workspace, place: '', rank: Infinity }
    : { workspace, place, rank: listed.indexOf(place) }
}

/** The file that an import names, relative to the root; undefined for a package from outside. @param {string} source @param {string} file absolute @param {string} root */
function fileOf(source, file, root) {
  const core = /^@bluestem\/core\/(.+)$/.exec(source)
  if (core) return `core/src/${core[1]}/index.ts`
  return source.startsWith('.') ? relative(root, resolve(dirname(file), source)) : undefined
}

/** @type {import('eslint').Rule.RuleModule} */
export const oneWay = {
  meta: {
    type: 'problem',
    messages: {
      workspace: '{{from}} imports nothing of {{to}}.',
      upwards:
        '“{{from}}” stands below “{{to}}” and may not import it: see the order in eslint.config.js.',
      unlisted: 'The folder of this file has no place in the order of eslint.config.js.',
    },
    schema: [{ type: 'object' }],
  },
  create(context) {
    const { root, places, allowed } = context.options[0]
    const own = homeOf(relative(root, context.filename), places)
    const isInFolder = relative(root, context.filename).split('/').length > 3
    const isListed = own.place !== '' || !places[own.workspace] || !isInFolder
    /** @param {import('estree').Node & { source?: { value?: unknown } | null }} node */
    function judge(node) {
      const target =
        typeof node.source?.value === 'string'
          ? fileOf(node.source.value, context.filename, root)
          : undefined
      if (target === undefined) return
      const home = homeOf(target, places)
      if (home.workspace !== own.workspace) {
        if (!allowed[own.workspace]?.includes(home.workspace))
          context.report({
            node,
            messageId: 'workspace',
            data: { from: own.workspace, to: home.workspace },
          })
      } else if (home.rank > own.rank)
        context.report({
          node,
          messageId: 'upwards',
          data: { from: own.place, to: home.place || home.workspace },
        })
    }
    return {
      Program(node) {
        const isSource = /^\w+\/src\/(?!.*\.test\.ts$)/.test(relative(root, context.filename))
        if (isSource && !isListed) context.report({ node, messageId: 'unlisted' })
      },
      ImportDeclaration: judge,
      ImportExpression: judge,
      ExportNamedDeclaration: judge,
      ExportAllDeclaration: judge,
    }
  },
}
