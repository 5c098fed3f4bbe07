import { By, Key } from 'selenium-webdriver'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { settled } from '../scripts/browser.mjs'
import { beginJourney, type Journey } from './journey.ts'
import { dialog, type Page } from './page.ts'
import { putOnDashboard } from './steps.ts'

let journey: Journey
let page: Page

beforeAll(async () => {
  journey = await beginJourney()
  page = journey.page
})
afterAll(async () => await journey?.close())

describe('the whole path', () => {
  it('signs in with a wrong and a right password', async () => {
    await page.open('/definitions/fields')
    expect(await page.driver.getCurrentUrl()).toContain('/sign-in')
    await page.write('E-mail', 'mara.thiel@marrowmere.example')
    await page.write('Password', 'not this one')
    await page.press('Sign in')
    await page.reads('The e-mail address or the password is not right.')
    await page.write('Password', 'marrowmere')
    await page.press('Sign in')
    await page.reads('defined once')
  })

  it('defines a field and publishes it', async () => {
    await page.press('New field')
    await page.write('Title', 'Slipway number')
    expect(
      await (await page.control('Handle: its name in queries, for ever')).getAttribute('value'),
    ).toBe('slipway_number')
    await page.choose('Kind', 'number')
    await page.write('When to use it, who fills it', 'Which rail of the slipway it lies on.')
    await (await page.control('Defect: on the item')).click()
    await page.press('Put it in the draft')
    await page.reads('2 changes')
    await page.press('Review')
    await page.reads('field Slipway number')
    expect(await page.axe('everything')).toEqual([])
    await page.write('Why', 'The slipmaster asked for it.')
    await page.press('Publish edition 5')
    await page.reads('Edition 5 is published.')
    await page.reads('The slipmaster asked for it.')
  })

  it('fills the field on an item', async () => {
    await page.open('/work/YARD')
    await page.press('New item')
    await page.write('Title', 'Keel block is worn')
    await page.press('Make it')
    await page.reads('Keel block is worn')
    await page.press('Change Slipway number')
    const input = await page.control('Slipway number')
    await input.sendKeys('3', Key.TAB)
    await settled(page.driver)
    await page.reads('set Slipway number to 3')
  })

  it('asks for it, saves the question and shares it', async () => {
    await page.open('/queries/new')
    const editor = await page.find('.cm-content')
    await editor.click()
    await editor.sendKeys("slipway_nummer = 3 AND type = 'Defect'", Key.ESCAPE)
    await page.reads('Did you mean slipway_number?')
    await page.press('write slipway_number')
    await page.driver.wait(async () => (await page.text('.count')).startsWith('1 answer'), 10_000)
    await page.press('Sentence')
    await page.reads('Slipway number is 3')
    await page.press('Keep')
    await page.write('Title', 'On rail three')
    await page.press('Keep', dialog)
    await page.reads('shared with nobody yet')
    await page.press('Share with everyone')
    await page.reads('shared with everyone')
  })

  it('arranges it as a board and drags a card', async () => {
    await page.press('Arrange')
    await page.choose('As a', 'board')
    await page.press('Keep')
    await page.write('Title', 'Rail three')
    await (await page.find('[role=dialog] input[value=everyone]')).click()
    await page.press('Keep', dialog)
    await page.reads('Rail three')
    const card = await page.find('[data-card]')
    const cardRef = (await card.getAttribute('data-card'))!
    const refused = await page.find('section[aria-label="Signed off"] .cards')
    await page.carry(card, refused)
    await page.reads('Not from Open. It may go to')
    await page.letGo()
    await page.reads('stays where it is')
    expect(await page.text('section[aria-label="Open"]')).toContain(cardRef)
    await page.carry(
      await page.find(`[data-card="${cardRef}"]`),
      await page.find('section[aria-label="In hand"] .cards'),
    )
    await page.letGo()
    await page.driver.wait(
      async () => (await page.text('section[aria-label="In hand"]')).includes(cardRef),
      10_000,
    )
  })

  it('moves a card by keyboard, over columns its flow does not allow', async () => {
    const card = await page.find('section[aria-label="In hand"] [data-card]')
    const cardRef = (await card.getAttribute('data-card'))!
    await card.sendKeys(Key.chord(Key.ALT, Key.ARROW_RIGHT))
    await page.driver.wait(
      async () => !(await page.text('section[aria-label="In hand"]')).includes(cardRef),
      10_000,
    )
    await page.press('Undo', `//*[@data-pc-section='message'][last()]`)
    await page.driver.wait(
      async () => (await page.text('section[aria-label="In hand"]')).includes(cardRef),
      10_000,
    )
  })

  it('measures it and places the figure on a dashboard', async () => {
    await putOnDashboard(page, {
      measure: 'Defects on rail three',
      query: 'On rail three',
      dashboard: 'Slipway',
    })
    await page.driver.navigate().refresh()
    await settled(page.driver)
    expect(await page.text('.widget .big')).toBe('1')
  })

  it('opens the figure and comes back to the item', async () => {
    await (await page.find('.widget .big')).click()
    await settled(page.driver)
    await page.reads('The items behind the figure')
    await page.reads('1 answer')
    await (await page.find('.line a.title')).click()
    await settled(page.driver)
    await page.reads('Keel block is worn')
    expect(await page.text('.sheet')).toContain('In hand')
  })
})

describe('a place that changes', () => {
  it('explains a refused move on the item', async () => {
    await page.open('/queries/qu_defects')
    const open = await page.driver.wait(
      async () =>
        (
          await page.driver.findElements(
            By.xpath(
              `//div[@role='row'][.//span[normalize-space()='Open']]//a[contains(@class, 'title')]`,
            ),
          )
        )[0],
      10_000,
    )
    await open!.click()
    await settled(page.driver)
    await (await page.find('button.refused')).click()
    expect(await page.text('.told')).toMatch(/does not go from Open to .+ From Open it may go to/)
  })

  it('undoes the only change of a draft, which then goes; drops one, takes it back, and drops it', async () => {
    await page.open('/definitions/flows')
    await (await page.find('button.cell.closed')).click()
    await settled(page.driver)
    await page.reads('1 change')
    expect(await page.all('button.cell.allows')).toHaveLength(1)
    await page.press('Review')
    await page.reads('not allowed allowed')
    await page.press('undo')
    await page.reads('No draft is open.')
    await page.open('/definitions/flows')
    await page.reads('no draft open')
    await (await page.find('button.cell.closed')).click()
    await settled(page.driver)
    await page.press('Drop')
    await page.reads('1 change by Mara Thiel goes with it.')
    await page.press('Drop it')
    await page.reads('no draft open')
    await page.press('Undo', `//*[@data-pc-section='message'][last()]`)
    await page.reads('1 change')
    await page.press('Drop')
    await page.press('Drop it')
    await page.reads('no draft open')
  })

  it('renames a status in two clicks and a publish: the board keeps its meaning and shows the new name', async () => {
    await page.open('/definitions/flows')
    await page.choose('Rulebook', 'Yard and shore work')
    await page.press('Waiting for parts, active', '//thead')
    await page.press('Rename or describe')
    await page.write('Title', 'Waiting for spares')
    await page.press('Publish it at once')
    await page.reads('Edition 6 is published.')
    await page.open('/definitions/editions')
    await page.reads('“Waiting for parts” is now called “Waiting for spares”.')
    await page.open('/views/vi_morning')
    await page.reads('Waiting for spares')
  })

  it('shows a board what stands elsewhere, and why some is not shown', async () => {
    await page.open('/views/vi_morning')
    await page.reads('stand elsewhere')
    expect(await page.text('section[aria-label="elsewhere"]')).toContain('Awaiting surveyor')
    await page.press('show them')
    await page.driver.wait(
      async () => !(await page.text('.shown')).includes('finished over'),
      10_000,
    )
    await page.press('Put back')
  })

  it('scrolls a long list to its end', async () => {
    await page.open('/queries/qu_all')
    const grid = await page.find('[role=grid]')
    await grid.sendKeys(Key.END)
    await settled(page.driver)
    await page.driver.wait(
      async () => (await page.all(`[aria-rowindex="2501"], [aria-rowindex="2502"]`)).length > 0,
      10_000,
    )
    expect(await page.all('.line')).not.toHaveLength(2500)
  })
})

describe('definitions that others share', () => {
  it('makes labels one that mark the same', async () => {
    await page.open('/definitions/labels')
    await page.press('Near duplicates: 1 group')
    await page.press('Make them one …')
    await page.press('Make them one', dialog)
    await page.reads('hold it now.')
    await page.reads('No near duplicates.')
    await page.press('undo')
    await page.reads('hold again what they held.')
    await page.press('Show all')
    await page.reads('Near duplicates: 1 group')
  })

  it('asks what values in use become before a project has a ladder of its own, and nobody else is touched', async () => {
    await page.open('/definitions/priorities')
    await page.press('A ladder of our own …')
    await page.choose('Project', 'Crewing and Timetable')
    await page.press('Put it in the draft')
    await page.press('Take Passenger nuisance off Crewing and Timetable’s own')
    await page.reads('question open')
    await page.press('Review')
    expect(await (await page.named('Publish edition 7')).isEnabled()).toBe(false)
    await page.choose('What Passenger nuisance becomes in Crewing and Timetable', 'When convenient')
    await page.write('Why', 'A timetable knows no passengers.')
    await page.press('Publish edition 7')
    await page.reads('Edition 7 is published.')
    await page.open('/work/PIER')
    await page.reads('Passenger nuisance')
    await page.open('/work/CREW')
    await page.reads('When convenient')
    expect(await page.text('.sheet')).not.toContain('Passenger nuisance')
  })

  it('lets a member propose a better word, which waits for the keepers', async () => {
    await journey.enter('tom.okafor')
    await page.open('/work/YARD/12')
    await page.press('propose a field or a word …')
    await (await page.control('Instead of')).sendKeys(Key.ARROW_DOWN)
    await (await page.find('[role=option]:nth-child(2)')).click()
    await settled(page.driver)
    await page.write('Better', 'A plainer word')
    await page.press('Propose it')
    await page.reads('Proposed. It waits in Definitions')
    await journey.enter()
    await page.open('/definitions/types')
    await page.reads('2 proposals wait')
  })

  it('opens a form filled by a template, and makes all of it', async () => {
    await page.open('/work/YARD?make=te_refit')
    const vessel = await page.control('vessel')
    await vessel.sendKeys('MV Heron', Key.TAB)
    await settled(page.driver)
    await page.reads('Hull of MV Heron')
    await page.press('Make it, with 5 below it')
    await page.reads('Winter refit of MV Heron')
    await page.reads('Engine of MV Heron')
  })

  it('tells what a move still lacks, before it is tried', async () => {
    await page.open('/work/YARD')
    await page.press('New item')
    await page.write('Title', 'Rudder stock is worn')
    await page.press('Make it')
    await page.press('In hand')
    await page.press('Awaiting surveyor …')
    await page.reads('Name the surveyor who is to see it.')
    await page.reads('Surveyor must be filled first.')
  })

  it('gives a team hours of its own, by which the clocks of its items run', async () => {
    await page.open('/definitions/people')
    await page.press('5 teams')
    await page.press('New team')
    await page.write('Title', 'Dive team')
    await page.choose('Works by', 'Yard shifts')
    await (await page.find('[role=dialog] .cm-content')).sendKeys("type = 'Finding'")
    await page.reads('Items of type Finding')
    await page.press('Make the team')
    await page.reads('The clocks of every item in its remit run by its calendar.')
    await page.press('their items')
    await (await page.find('.line a.title')).click()
    await page.reads('counted in Yard shifts, the calendar of Dive team')
  })

  it('makes a project that follows a rulebook', async () => {
    await page.open('/work')
    await page.press('New project')
    await page.write('Name', 'Winter Works')
    await page.write('Code', 'WINT')
    await page.press('Make the project')
    await page.open('/work/WINT')
    await page.press('New item')
    await page.write('Title', 'Ask for the dock')
    await page.press('Make it')
    await page.reads('WINT/1')
  })
})

describe('what is written and not kept', () => {
  it('is not lost by Escape or Back without a question', async () => {
    await page.open('/definitions/fields')
    await (await page.find('nav a[href="/definitions/people"]')).click()
    await page.press('Add a person')
    await page.write('Name', 'Half a name')
    await page.driver.actions().sendKeys(Key.ESCAPE).perform()
    await page.reads('What you wrote here is not kept yet.')
    await page.press('Go on writing')
    await page.driver.executeScript('history.back()')
    await page.reads('What you wrote here is not kept yet.')
    expect(await page.driver.getCurrentUrl()).toContain('/definitions/people')
    await page.press('Leave it')
    expect(await page.all('[role=dialog]')).toHaveLength(0)
  })
})

describe('by keyboard alone', () => {
  it('finds an item and opens it', async () => {
    await page.open('/dashboards')
    await page.driver.actions().keyDown(Key.CONTROL).sendKeys('k').keyUp(Key.CONTROL).perform()
    const box = await page.driver.switchTo().activeElement()
    expect(await box.getAttribute('aria-label')).toBe('Find anything')
    await box.sendKeys('YARD/12')
    await page.driver.wait(async () => (await page.text('.find')).includes('YARD/12\n'), 10_000)
    await box.sendKeys(Key.ENTER)
    await page.driver.wait(
      async () => (await page.driver.getCurrentUrl()).endsWith('/work/YARD/12'),
      10_000,
    )
  })

  // One chapter for each of the two kinds of tables.
  it.each(['fields', 'components'])(
    'opens what is selected in %s with Enter, which stays until Escape',
    async (chapter) => {
      await page.open(`/definitions/${chapter}`)
      await (await page.find('table tbody tr[tabindex]')).sendKeys(Key.ENTER)
      await page.find('[role=dialog]')
      await settled(page.driver)
      expect(await page.all('[role=dialog]')).toHaveLength(1)
      await page.driver.actions().sendKeys(Key.ESCAPE).perform()
      await page.driver.wait(async () => (await page.all('[role=dialog]')).length === 0, 10_000)
    },
  )

  it('walks a list and reads in the margin what is selected', async () => {
    await page.open('/work/YARD')
    const grid = await page.find('[role=grid]')
    await page.driver.wait(async () => (await page.all('.line[data-ref]')).length > 3, 10_000)
    await grid.sendKeys(Key.ARROW_DOWN, Key.ARROW_DOWN)
    const ref = await (await page.find('.line.selected')).getAttribute('data-ref')
    await page.driver.wait(async () => (await page.text('aside')).includes(ref!), 10_000)
  })

  it('moves a widget of a dashboard and puts it back', async () => {
    await page.open('/dashboards/da_yard')
    await page.press('Arrange')
    const head = await page.find('[gs-id="d"] .widget-head')
    const place = async (): Promise<string | null> =>
      await (await page.find('[gs-id="d"]')).getAttribute('gs-x')
    expect(await place()).toBe('9')
    await head.sendKeys(Key.ARROW_LEFT)
    await page.driver.wait(async () => (await place()) === '8', 10_000)
    await page.reads('not kept yet')
    await page.press('Put back')
    await page.driver.wait(async () => (await place()) === '9', 10_000)
  })
})

describe('what a viewer may', () => {
  it('reads everything shared, and is offered no change', async () => {
    await journey.enter('ida.lund')
    await page.open('/definitions/fields')
    expect(await page.text('.sheet')).not.toContain('New field')
    await page.open('/work/YARD')
    expect(await page.text('.sheet')).not.toContain('New item')
    await page.open('/work')
    expect(await page.text('.sheet')).not.toContain('CREW')
    await page.open('/views/vi_morning')
    expect(await page.all('[data-card]')).not.toHaveLength(0)
  })
})
