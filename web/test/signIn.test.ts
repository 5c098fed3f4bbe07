import { flushPromises } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import KeysSheet from '../src/app/KeysSheet.vue'
import Masthead from '../src/app/Masthead.vue'
import SignIn from '../src/app/SignIn.vue'
import { theme } from '../src/theme/theme.ts'
import { serve, show, vocabulary, press, type Page } from './page.ts'

const session = {
  person: { id: 'pe_tom', name: 'Tom Okafor', email: '', role: 'member' },
  workspace: { title: 'Marrowmere Ferries', zone: 'UTC', demo: true, settingUp: false },
  now: '2026-11-25T10:00:00Z',
}

describe('signing in', () => {
  it('leads to where one was going, and only within Bluestem', async () => {
    serve({
      'POST /session': { status: 201, body: {} },
      'GET /session': { body: session },
      'GET /vocabulary': { body: vocabulary },
    })
    for (const [next, lands] of [
      ['/work/YARD', '/work/YARD'],
      ['//elsewhere.example', '/'],
      ['https://elsewhere.example', '/'],
    ]) {
      const wrapper = await show(SignIn, { path: `/sign-in?next=${encodeURIComponent(next!)}` })
      await wrapper.get('input[type=email]').setValue('tom.okafor@marrowmere.example')
      await wrapper.get('input[type=password]').setValue('marrowmere')
      await wrapper.get('form').trigger('submit')
      await flushPromises()
      expect(wrapper.router.currentRoute.value.fullPath).toBe(lands)
      wrapper.unmount()
    }
  })

  it('says what was wrong, and keeps what was written', async () => {
    serve({
      'POST /session': {
        status: 401,
        body: { detail: 'The e-mail address or the password is not right.' },
      },
    })
    const wrapper = await show(SignIn)
    await wrapper.get('input[type=email]').setValue('tom@marrowmere.example')
    await wrapper.get('form').trigger('submit')
    await flushPromises()
    expect(wrapper.get('[role=alert]').text()).toContain('is not right')
    expect((wrapper.get('input[type=email]').element as HTMLInputElement).value).toBe(
      'tom@marrowmere.example',
    )
  })
})

/** Takes one of the acts of the account. */
async function account(wrapper: Page, words: string): Promise<void> {
  await press(wrapper, 'TO')
  const act = wrapper.findAll('[role=menuitem]').find((node) => node.text() === words)
  await act!.get('.p-menu-item-content').trigger('click')
  await flushPromises()
}

describe('the masthead', () => {
  it('names the six places, marks where one is, and turns the paper', async () => {
    const wrapper = await show(Masthead)
    expect(wrapper.findAll('nav a').map((link) => link.text())).toEqual([
      'Definitions',
      'Work',
      'Queries',
      'Views',
      'Dashboards',
      'Consistency',
    ])
    const before = theme.value
    await account(wrapper, before === 'light' ? 'Dark paper' : 'Light paper')
    expect(document.documentElement.dataset['theme']).not.toBe(before)
    expect(localStorage.getItem('theme')).toBe(theme.value)
  })

  it('changes one’s password, and tells at its field what is wrong', async () => {
    const refusals = [{ pointer: '/before', message: 'This is not your password as it is now.' }]
    const asked = serve({
      'POST /session/password': { status: 400, body: { detail: 'No.', errors: refusals } },
    })
    const wrapper = await show(Masthead)
    await account(wrapper, 'Change password')
    const [before, after] = wrapper.findAll('[role=dialog] input')
    await before!.setValue('guess')
    await after!.setValue('tar and tallow')
    await wrapper.get('[role=dialog] form').trigger('submit')
    await flushPromises()
    expect(asked.at(-1)?.body).toEqual({ before: 'guess', after: 'tar and tallow' })
    expect(wrapper.get('[role=dialog] [role=alert]').text()).toBe(refusals[0]!.message)
  })

  it('signs out', async () => {
    const asked = serve({ 'DELETE /session': { status: 204 } })
    const wrapper = await show(Masthead)
    await account(wrapper, 'Sign out')
    expect(asked.at(-1)).toMatchObject({ method: 'DELETE', path: '/session' })
    expect(wrapper.router.currentRoute.value.path).toBe('/sign-in')
  })
})

describe('the keys', () => {
  it('are shown on ?, but not to whoever writes', async () => {
    const wrapper = await show({
      components: { KeysSheet },
      template: '<KeysSheet /><input aria-label="Words" />',
    })
    await wrapper.get('input').trigger('keydown', { key: '?' })
    expect(wrapper.find('[role=dialog]').exists()).toBe(false)
    window.dispatchEvent(new KeyboardEvent('keydown', { key: '?' }))
    await flushPromises()
    expect(wrapper.get('[role=dialog]').text()).toContain('moves a card to the next column')
  })
})
