import { describe, expect, it, vi } from 'vitest'

let told: ((event: { matches: boolean }) => void) | undefined

/** The module anew, on a page that is narrow or wide and can become the other. */
async function foldingOn(isNarrow: boolean) {
  vi.resetModules()
  vi.stubGlobal('matchMedia', () => ({
    matches: isNarrow,
    addEventListener: (_: string, tell: typeof told) => (told = tell),
  }))
  return (await import('../src/parts/folding.ts')).useFolding('margin')
}

describe('what stands beside a page', () => {
  it('is folded on a wide page as it was left', async () => {
    const { folded, turn } = await foldingOn(false)
    expect(folded.value).toBe(false)
    turn()
    expect(folded.value).toBe(true)
    expect((await foldingOn(false)).folded.value).toBe(true)
  })

  it('folds by itself on a narrow page, comes when asked for, and gives way again', async () => {
    const { folded, turn, giveWay } = await foldingOn(true)
    expect(folded.value).toBe(true)
    turn()
    expect(folded.value).toBe(false)
    giveWay()
    expect(folded.value).toBe(true)
    // A narrow page says nothing about a wide one.
    expect(localStorage.getItem('margin')).toBeNull()
  })

  it('follows the page as it becomes narrow', async () => {
    const { folded } = await foldingOn(false)
    told!({ matches: true })
    expect(folded.value).toBe(true)
  })
})
