import { By, Key } from 'selenium-webdriver'
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest'
import { settled } from '../scripts/browser.mjs'
import { beginJourney, type Journey } from './journey.ts'
import { type Page } from './page.ts'

let journey: Journey
let page: Page

beforeAll(async () => {
  journey = await beginJourney()
  page = journey.page
  await journey.enter()
})
afterAll(async () => await journey?.close())
beforeEach(async () => await settled(page.driver))

const until = async (met: () => Promise<boolean>, what: string): Promise<void> =>
  void (await page.driver.wait(met, 15_000, what))

/** Keys as they reach whatever has the focus. */
async function keys(...given: readonly string[]): Promise<void> {
  for (const key of given) await page.driver.actions().sendKeys(key).perform()
  await settled(page.driver)
}
async function chord(held: string, key: string): Promise<void> {
  await page.driver.actions().keyDown(held).sendKeys(key).keyUp(held).perform()
  await settled(page.driver)
}

/** Goes on with the Tab key until what has the focus says, or is called, some words. */
async function tabTo(words: string): Promise<void> {
  for (let steps = 0; steps < 80; steps += 1) {
    await page.driver.actions().sendKeys(Key.TAB).perform()
    const says = await page.driver.executeScript<string>(
      `const at = document.activeElement
      return (at.getAttribute('aria-label') ?? '') + '|' + at.textContent.trim()`,
    )
    if (says.split('|').includes(words)) return
  }
  throw new Error(`no way by Tab to ${words}`)
}

/** Chooses in the list that has the focus by typing. */
async function pick(words: string): Promise<void> {
  await keys(Key.ARROW_DOWN)
  await keys(...words)
  await keys(Key.ENTER)
}

/** Chooses in a long list, which narrows by typing. */
async function narrow(words: string): Promise<void> {
  await keys(Key.ARROW_DOWN)
  await keys(...words)
  await keys(Key.ARROW_DOWN, Key.ENTER)
}

const focusOn = async (css: string): Promise<void> =>
  await page.driver.executeScript('arguments[0].focus()', await page.find(css))
const titles = async (): Promise<string[]> =>
  await Promise.all(
    (await page.all('[aria-label="Unfiled lines"] tbody tr td:nth-child(2)')).map(
      async (webElement) => await webElement.getText(),
    ),
  )
/** How many items answer a filter, and the first of them. */
const search = async (filter: string): Promise<{ total: number; items: { ref: string }[] }> =>
  await page.driver.executeAsyncScript(
    `const done = arguments[1]
    fetch('/api/v1/items/search', { method: 'POST', headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ filter: arguments[0], limit: 1 }) }).then((one) => one.json()).then(done)`,
    filter,
  )
const answers = async (filter: string): Promise<number> => (await search(filter)).total

describe('by keyboard alone', () => {
  it('jots ten, files them, breaks one down, changes five at once, and undoes that', async () => {
    await page.open('/work/YARD')
    await keys('j')
    for (let line = 1; line <= 10; line += 1) await keys(...`Anode ${line} of ten`, Key.ENTER)
    await page.reads('Anode 10 of ten')
    await tabTo('Done')
    await keys(Key.ENTER)

    await page.open('/jots')
    await page.reads('Anode 10 of ten')
    const before = (await titles()).length
    await focusOn('[aria-label="Unfiled lines"] tbody tr')
    await keys(Key.END)
    for (let line = 0; line < 10; line += 1) await keys(' ', Key.ARROW_UP)
    await page.reads('10 lines chosen')
    await tabTo('Project to file into')
    await pick('Fleet')
    await tabTo('Type they become')
    await pick('Job')
    await tabTo('File')
    await keys(Key.ENTER)
    await page.reads('10 items made')
    expect(await titles()).toHaveLength(before - 10)
    expect(await answers("title LIKE 'Anode % of ten' AND type = 'Job'")).toBe(10)

    await page.open('/work/YARD/tree')
    await until(async () => (await page.all('[role=treegrid] [data-ref]')).length > 3, 'no tree')
    await focusOn('[role=treegrid]')
    await keys(Key.END, 'b')
    await keys(...'Weigh the old one', Key.ENTER)
    await until(async () => (await answers("title = 'Weigh the old one'")) === 1, 'not broken down')
    await keys(Key.ESCAPE)

    await page.open('/work/YARD')
    await until(async () => (await page.all('.line[data-ref]')).length > 5, 'no items')
    await focusOn('[role=grid]')
    await keys(Key.HOME, ' ')
    for (let row = 0; row < 4; row += 1) await chord(Key.SHIFT, Key.ARROW_DOWN)
    await page.reads('5 items chosen')
    await keys('c')
    await page.find('[role=dialog]')
    await tabTo('Field 1')
    await narrow('Estimate')
    await tabTo('Value of Estimate')
    await keys('3', '7', Key.TAB)
    await page.reads('5 items change')
    await tabTo('Change 5 items')
    await keys(Key.ENTER)
    await page.reads('5 items changed')
    expect(await answers('estimate = 37')).toBe(5)

    await page.open('/changes')
    await page.reads('Estimate')
    await tabTo('undo')
    await keys(Key.ENTER)
    await until(async () => (await answers('estimate = 37')) === 0, 'not undone')
  })

  it('links two items, found by words', async () => {
    await page.open('/work/YARD/12')
    await page.reads('What happened')
    await tabTo('link with another …')
    await keys(Key.ENTER)
    await tabTo('The other item')
    await keys(...'YARD/13')
    await until(async () => (await page.all('[role=option]')).length > 0, 'nothing found')
    await keys(Key.ARROW_DOWN, Key.ENTER)
    await until(
      async () => (await page.all('[aria-label^="End: "][aria-label$="YARD/13"]')).length === 1,
      'no link',
    )
  })

  it('makes two straight into a question, where they take what makes them belong', async () => {
    const filter = "project = 'YARD' AND type = 'Job' AND status = 'In hand' AND due = today()"
    await page.open('/queries/new')
    await focusOn('.cm-content')
    await keys(...filter)
    await page.reads('answers')
    await focusOn('[role=grid]')
    const before = await answers(filter)
    await keys('m')
    await page.reads('It takes:')
    await keys(...'Grease the winch', Key.ENTER)
    await page.reads('is made.')
    await keys(...'Paint the winch', Key.ENTER)
    await until(async () => (await answers(filter)) === before + 2, 'they do not belong')
  })

  it('says something that names somebody, who hears of it', async () => {
    await page.open('/work/YARD/15')
    await page.reads('Nothing stands below it')
    await tabTo('Write a comment')
    await keys(...'Ask @toma', Key.BACK_SPACE)
    await until(async () => (await page.all('[role=option]')).length > 0, 'nobody is offered')
    await keys(Key.ENTER, ...'about it.')
    await chord(Key.CONTROL, Key.ENTER)
    await page.reads('@Tom Okafor')
    await journey.enter('tom.okafor')
    await page.open('/notices')
    await page.reads('YARD/15')
    await page.press('YARD/15 is seen')
    await until(async () => !(await page.text()).includes('YARD/15'), 'it is still new')
    await journey.enter()
  })

  it('takes acts back with Ctrl Z, the latest first', async () => {
    const { items } = await search("project = 'YARD' AND phase = 'active' AND on_hold = FALSE")
    await page.open(`/work/${items[0]!.ref}`)
    await page.reads('What happened')
    await page.press('put on hold …')
    await keys('No berth', Key.ENTER)
    await page.reads('On hold')
    await page.reads('Changed.')
    await focusOn('h1 button')
    await chord(Key.CONTROL, 'z')
    await until(async () => !(await page.text()).includes('On hold'), 'it is still on hold')
  })

  it('moves a branch of the tree and undoes it', async () => {
    await page.open('/work/YARD/tree')
    await until(async () => (await page.all('[role=treegrid] [data-ref]')).length > 3, 'no tree')
    const refs = async (): Promise<(string | null)[]> =>
      await Promise.all(
        (await page.all('[role=treegrid] [data-ref]')).map(
          async (webElement) => await webElement.getAttribute('data-ref'),
        ),
      )
    await focusOn('[role=treegrid]')
    await keys(Key.HOME)
    const before = await refs()
    await chord(Key.ALT, Key.ARROW_DOWN)
    await page.reads('moved.')
    await until(async () => (await refs())[0] !== before[0], 'the branch stayed')
    await page.press('Undo')
    await until(async () => (await refs())[0] === before[0], 'the branch did not come back')
  })
})

describe('by pointer', () => {
  it('puts work of the backlog into an iteration, and takes it back', async () => {
    await page.open('/iterations/it_apps_41')
    await page.reads('Backlog of Apps crew')
    const inIt = async (): Promise<number> => await answers("iteration = 'Apps 41'")
    const before = await inIt()
    await (await page.find('.line[data-ref] .tick')).click()
    await page.press('Put in')
    await page.reads('1 item changed')
    expect(await inIt()).toBe(before + 1)
    await page.press('Undo')
    await until(async () => (await inIt()) === before, 'it stayed in')
  })

  it('shows what somebody else made of a text meanwhile, and writes over nothing', async () => {
    await page.open('/work/YARD/18')
    await page.reads('What happened')
    await (
      await page.driver.findElement(
        By.xpath('//button[normalize-space()="rewrite" or normalize-space()="describe it …"]'),
      )
    ).click()
    await keys(' And mine.')
    await page.driver.executeAsyncScript(
      `const done = arguments[arguments.length - 1]
      fetch('/api/v1/items/YARD/18', { method: 'PATCH', headers: { 'content-type': 'application/json', 'if-match': '*' },
        body: JSON.stringify({ description: 'What somebody else wrote about it.' }) }).then(done)`,
    )
    await page.press('Keep')
    await page.reads('Changed by two at once')
    await page.reads('What somebody else wrote about it.')
    await page.press('Keep theirs')
    await page.reads('What somebody else wrote about it.')
  })

  it('plans a release of a project and fills it', async () => {
    await page.open('/releases')
    await page.press('Plan a release …')
    await (await page.find('[role=dialog] input')).sendKeys('Spring refit')
    await page.choose('Projects that it belongs to', 'Fleet Yard')
    await page.driver.actions().sendKeys(Key.ESCAPE).perform()
    await page.press('Make it')
    await page.reads('In no release yet')
    await (await page.find('.line[data-ref] .tick')).click()
    await page.press('Put in')
    await page.reads('1 item changed')
    await page.press('Start')
    await page.reads('committed')
  })

  it('takes an item to another project, where its old ref leads', async () => {
    await page.open('/work/YARD/19')
    await page.reads('What happened')
    await page.press('take to another project …')
    await page.choose('Value of Project', 'Piers and Shore')
    await page.reads('1 item changes')
    await page.press('Change 1 item')
    await page.reads('1 item changed')
    await until(
      async () => (await page.driver.getCurrentUrl()).includes('/work/PIER/'),
      'it does not lead on',
    )
  })

  it('chooses the columns of a table by keyboard, which axe finds nothing wrong with', async () => {
    const chooser = 'button[aria-label^="Columns of People"]'
    const heads = async (): Promise<string> => await page.text('table.ledger thead')
    await page.open('/definitions/people')
    await until(async () => (await page.all(chooser)).length === 1, 'no place to choose columns')
    await focusOn(chooser)
    await keys(Key.ENTER)
    await until(
      async () => (await page.all('[aria-label="Teams wider"]')).length === 1,
      'no choice',
    )
    expect(await page.axe('everything')).toEqual([])
    const first = (await page.all('.p-popover input[type=checkbox]'))[3]!
    await first.sendKeys(Key.SPACE)
    await until(async () => !(await heads()).includes('Teams'), 'the column stays')
    await keys(Key.ESCAPE)
    await until(async () => (await page.all('.p-popover')).length === 0, 'it stays unfolded')
    expect(await page.driver.executeScript<string>('return document.activeElement.ariaLabel')).toBe(
      'Columns of People: 3 of 4 seen',
    )
    await page.driver.executeScript('localStorage.clear()')
  })

  it('takes over from the directory whom one chooses, and invites them', async () => {
    await page.open('/definitions/people')
    await page.press('From the directory …')
    await page.reads('Different in the directory')
    expect(await page.axe('everything')).toEqual([])
    const boxes = await page.all('[role=dialog] input[type=checkbox]')
    for (const box of boxes.slice(1, -1)) await box.click()
    await page.press('Take over 1 person')
    await page.reads('Send each of them their address.')
    expect(await page.all('[aria-label="The invitation of Oda Klint"]')).toHaveLength(1)
    await page.press('Done')
    await page.write('Narrow the people', 'Oda')
    await page.reads('member, not in yet')
  })

  it('plans the next iteration where the last one ended', async () => {
    await page.open('/iterations')
    await page.press('Plan iterations')
    await page.choose('Whose', 'Apps crew')
    await page.reads('Apps 44')
    await page.press('Make it')
    await page.reads('planned')
    expect(await page.text('h1')).toBe('Apps 44')
  })

  it('makes an item in a column of a board', async () => {
    await page.open('/views/vi_morning')
    await page.press('New items in In hand')
    await page.reads('It takes:')
    await (await page.control('Title of a new item in In hand')).sendKeys('Born in hand', Key.ENTER)
    await until(
      async () => (await answers("title = 'Born in hand' AND status = 'In hand'")) === 1,
      'it was not born there',
    )
  })

  it('jots by the button of the masthead, and drops what is not meant', async () => {
    await page.open('/work')
    await (await page.driver.findElement(By.css('.masthead .jot'))).click()
    await (await page.control('A title to jot down')).sendKeys('Not meant', Key.ENTER)
    await page.reads('jotted: Not meant')
    await page.press('Done')
    await page.open('/jots')
    await (await page.find('[aria-label="Choose Not meant"]')).click()
    await page.press('Drop')
    await page.reads('1 line dropped')
    expect(await titles()).not.toContain('Not meant')
  })
})
