import { flushPromises } from '@vue/test-utils'
import type { JobAnswer } from '@bluestem/core/jobs'
import { describe, expect, it } from 'vitest'
import JobsPage from '../src/consistency/JobsPage.vue'
import { serve, show } from './page.ts'

const job = (title: string, given: Partial<JobAnswer>): JobAnswer => ({
  key: title,
  kind: 'mapping',
  title,
  by: null,
  state: 'done',
  at: '2026-11-25T09:30:00Z',
  done: 0,
  total: 0,
  attempts: 0,
  reason: null,
  cancellable: false,
  ...given,
})

describe('jobs', () => {
  const jobs = [
    job('Over', { state: 'done', done: 9000, total: 9000 }),
    job('Set', { state: 'waiting', at: '2026-11-26T09:00:00Z', by: 'Mara', cancellable: true }),
    job('Under way', { state: 'at work', done: 2500, total: 10_000 }),
    job('Failing', { state: 'tried again', attempts: 3, reason: 'the disk is full' }),
    job('Failed', { state: 'given up', attempts: 25, reason: 'the disk is full' }),
    job('Gone', { state: 'refused', reason: 'This draft cannot be published yet.' }),
  ]

  it('show what needs somebody first, and how each stands', async () => {
    serve({ 'GET /jobs': { body: { jobs } } })
    const wrapper = await show(JobsPage)
    const rows = wrapper.findAll('tbody tr').map((row) => row.text().replaceAll(/\s+/g, ' '))
    expect(wrapper.findAll('tbody b').map((title) => title.text())).toEqual([
      'Failed',
      'Failing',
      'Under way',
      'Set',
      'Over',
      'Gone',
    ])
    expect(rows[0]).toContain('failed 25 times, not tried again')
    expect(rows[1]).toContain('the disk is full')
    expect(rows[2]).toContain('2,500 of 10,000')
    expect(wrapper.get('[role=progressbar]').attributes('aria-valuenow')).toBe('25')
    expect(rows[3]).toMatch(/for Mara\s*waits until 26 Nov/)
    expect(rows[5]).toContain('This draft cannot be published yet.')
    expect(wrapper.findAll('tbody button').map((node) => node.text())).toEqual([
      'Try again now',
      'Try again now',
      'Cancel',
    ])
  })

  it('are tried again and cancelled by their key', async () => {
    const asked = serve({
      'GET /jobs': { body: { jobs } },
      'POST /jobs/Failing/try': { status: 204 },
      'DELETE /jobs/Set': { status: 204 },
    })
    const wrapper = await show(JobsPage)
    await wrapper.get('[aria-label="Try again now: Failing"]').trigger('click')
    await wrapper.get('[aria-label="Cancel: Set"]').trigger('click')
    await flushPromises()
    expect(asked.map((request) => `${request.method} ${request.path}`)).toEqual(
      expect.arrayContaining(['POST /jobs/Failing/try', 'DELETE /jobs/Set']),
    )
  })

  it('say so when there are none', async () => {
    serve({ 'GET /jobs': { body: { jobs: [] } } })
    expect((await show(JobsPage)).text()).toContain('Nothing is under way.')
  })
})
