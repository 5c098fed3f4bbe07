import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'

interface Package {
  readonly license?: string
  readonly dev?: boolean
  readonly devOptional?: boolean
  readonly link?: boolean
  readonly version?: string
  readonly hasInstallScript?: boolean
  readonly resolved?: string
}
const lock = JSON.parse(
  readFileSync(new URL('../../package-lock.json', import.meta.url), 'utf8'),
) as { packages: Record<string, Package> }
const packages = Object.entries(lock.packages).filter(
  ([path, entry]) => path.includes('node_modules/') && !entry.link,
)

const permissive = new Set([
  'MIT',
  'ISC',
  'BSD-2-Clause',
  'BSD-3-Clause',
  'Apache-2.0',
  '0BSD',
  'BlueOak-1.0.0',
  'OFL-1.1',
  'CC0-1.0',
  'Unlicense',
  'Python-2.0',
  // The first of the licences that Python-2.0 is made of, on its own.
  'PSF-2.0',
  'MIT-0',
  'Zlib',
])
const isPermissive = (licence: string): boolean =>
  licence
    .replace(/[()]/g, '')
    .split(' OR ')
    .some((choice) => choice.split(' AND ').every((text) => permissive.has(text.trim())))

describe('what Bluestem is made with', () => {
  it('has the last controls under the MIT licence: newer majors are commercial', () => {
    const controls = packages.filter(([path]) => /node_modules\/(primevue|@primevue\/)/.test(path))
    expect(controls.map(([, { license, version }]) => `${license} ${version}`)).toEqual(
      controls.map(() => 'MIT 4.5.5'),
    )
    expect(controls.length).toBeGreaterThan(1)
    expect(packages.filter(([path]) => path.endsWith('/primeicons'))).toEqual([])
  })

  /** Data under a licence that asks for attribution alone, inside a tool of the tests. */
  const isTestData = ([path, { dev, license }]: (typeof packages)[number]): boolean =>
    path === 'node_modules/caniuse-lite' && license === 'CC-BY-4.0' && dev === true

  it('is under permissive licences; the MPL only where nothing of it is served', () => {
    const others = packages.filter(
      (entry) => !isPermissive(entry[1].license ?? '') && !isTestData(entry),
    )
    const served = others.filter(
      ([, { dev, devOptional, license }]) =>
        !(license === 'MPL-2.0' && (dev || devOptional)) && license !== 'MPL-2.0',
    )
    expect(served.map(([path, { license }]) => `${path}: ${license ?? 'none'}`)).toEqual([])
    expect(
      others
        .map(([path]) => path.split('node_modules/').at(-1))
        .filter(
          (name) => !/^(axe-core|@axe-core\/webdriverjs|ical\.js|lightningcss.*)$/.test(name!),
        ),
    ).toEqual([])
  })

  it('is pinned without the address it was fetched from', () => {
    expect(
      packages.filter(([, { resolved }]) => resolved !== undefined).map(([path]) => path),
    ).toEqual([])
  })

  it('is named in exact versions', () => {
    for (const place of ['.', 'core', 'server', 'web', 'e2e']) {
      const { dependencies = {}, devDependencies = {} } = JSON.parse(
        readFileSync(new URL(`../../${place}/package.json`, import.meta.url), 'utf8'),
      ) as Record<string, Record<string, string>>
      for (const [name, version] of Object.entries({ ...dependencies, ...devDependencies }))
        expect(version, name).toMatch(/^\d+\.\d+\.\d+(-[\w.]+)?$/)
    }
  })
})
