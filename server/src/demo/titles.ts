import { entryOf } from '@bluestem/core/known'
import type { Chance } from './chance.ts'

/** The pieces that titles of each project are put together from: things, and what is the matter with them, by type. */
const pieces: Record<
  string,
  {
    readonly things: readonly string[]
    readonly defects: readonly string[]
    readonly jobs: readonly string[]
    readonly checks: readonly string[]
  }
> = {
  YARD: {
    things: [
      'stern ramp hinge',
      'bow thruster',
      'wheelhouse heater',
      'life-raft cradle',
      'port navigation light',
      'galley extractor',
      'radar display',
      'deck light 7',
      'saloon door',
      'bilge pump',
      'anchor windlass',
      'steering gear',
      'starboard shaft seal',
      'fuel filter',
      'car deck drain',
      'mooring winch',
      'engine room fan',
      'fire main valve',
      'gangway hoist',
      'horn',
      'echo sounder',
      'battery charger',
      'saloon carpet',
      'mast lamp',
    ],
    defects: [
      'weeps oil at full load',
      'trips its breaker',
      'smells of diesel',
      'bends when opened',
      'flickers in rain',
      'hums at idle',
      'sticks half way',
      'leaks under way',
      'makes no contact',
      'runs hot',
      'is loose after the May storm',
      'answers late',
      'rattles above 8 knots',
      'shows a ghost at 2 nm',
      'fails its insulation test',
    ],
    jobs: [
      'Overhaul',
      'Grease',
      'Replace',
      'Repaint',
      'Rewire',
      'Fit a new',
      'Take out and inspect',
    ],
    checks: [
      'Measure insulation of',
      'Log current of',
      'Look at wear of',
      'Trial under full load:',
      'Weigh',
    ],
  },
  PIER: {
    things: [
      'fender 4',
      'gangway alarm',
      'handrail',
      'waiting-room door',
      'pier lamp',
      'mooring bollard',
      'ticket hall roof',
      'gangway wheel',
      'ramp grid',
      'bench',
      'clock',
      'loudspeaker',
      'life-buoy post',
      'drain grate',
      'crane hook',
      'timetable board',
    ],
    defects: [
      'is loose after the May storm',
      'cannot be heard above the engines',
      'has a gap of over 110 mm',
      'does not close',
      'is dark',
      'has a crack',
      'drips',
      'squeaks',
      'is bent',
      'has lost its bolts',
    ],
    jobs: ['Mend', 'Replace', 'Repaint', 'Anchor anew the', 'De-ice', 'Clean and oil'],
    checks: ['Pull test of', 'Look at corrosion of', 'Measure', 'Count bolts of'],
  },
  CREW: {
    things: [
      'early shift to Reed Bay',
      'Sunday roster',
      'relief skipper',
      'winter timetable',
      'night berth plan',
      'deckhand training',
      'summer extra sailings',
      'holiday plan',
      'radio course',
      'medical certificates',
    ],
    defects: [
      'has a gap on Tuesdays',
      'counts a rest hour twice',
      'clashes with the school run',
      'is missing two names',
      'leaves no time to fuel',
    ],
    jobs: ['Plan', 'Publish', 'Agree on', 'Renew', 'Swap'],
    checks: ['Ask the skippers about', 'Count hours of', 'Confirm'],
  },
  FARE: {
    things: [
      'season pass',
      'group ticket',
      'ticket machine receipt',
      'boarding scanner',
      'app sign-in',
      'refund form',
      'bicycle fare',
      'child fare',
      'timetable page',
      'push notice of delays',
      'card payment',
      'language switch',
      'gift voucher',
      'report for the accounts',
    ],
    defects: [
      'shows last year’s price',
      'fails without a network',
      'rounds to the wrong cent',
      'cannot be read in sunlight',
      'is sent twice',
      'forgets the language',
      'freezes on old phones',
      'takes nine seconds',
    ],
    jobs: ['Move', 'Renew', 'Write up'],
    checks: ['Try on an old phone:', 'Compare prices of', 'Read aloud with a screen reader:'],
  },
  SAFE: {
    things: [
      'fire door of the saloon',
      'life-jacket locker',
      'muster list',
      'emergency lighting',
      'oil spill kit',
      'first-aid chest',
      'evacuation chair',
      'extinguisher 12',
      'smoke detector',
      'man-overboard drill',
      'gas alarm',
      'assembly sign',
    ],
    defects: [
      'is out of date',
      'is blocked by luggage',
      'cannot be opened by a child',
      'is not sealed',
      'was not logged',
      'hangs too high',
    ],
    jobs: ['Round of', 'Quarterly look at', 'Inspectorate visit:'],
    checks: ['Photograph', 'Test', 'Sign the list of'],
  },
}

const packages = [
  'Winter refit of MV Petrel',
  'Winter refit of MV Curlew',
  'Spring readiness',
  'New ramp gear',
  'Engine room safety',
  'Pier lighting',
  'North Pier renewal',
  'Fares for the new season',
  'Boarding without paper',
  'Summer timetable',
  'Training of deckhands',
  'Fire safety year',
]
const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1)

/** A title for an item of a type in a project. */
export function titleFor(chance: Chance, project: string, type: string): string {
  const { things, defects, jobs, checks } = entryOf(pieces, project)
  const thing = chance.pick(things)
  switch (type) {
    case 'programme':
      return `${chance.pick(['Refits', 'Renewal', 'Season'])} ${chance.whole(2, 9)}: ${chance.pick(packages)}`
    case 'package':
      return chance.pick(packages)
    case 'job':
    case 'inspection':
      return capital(`${chance.pick(jobs)} ${thing}`)
    case 'check':
      return capital(`${chance.pick(checks)} ${thing}`)
    case 'change':
      return capital(
        chance.pick([
          `let passengers change the ${thing}`,
          `show the ${thing} on the pier screens`,
          `make the ${thing} work in both languages`,
          `${thing} for returning passengers`,
          `simpler ${thing}`,
        ]),
      )
    default:
      return capital(`${thing} ${chance.pick(defects)}`)
  }
}

const openings = [
  'Seen on the morning round.',
  'Told by the skipper after the last sailing.',
  'It began after the storm in May.',
  'Not seen before this season.',
  'The maker says it is known.',
  'Happens two or three times a week.',
]
const middles = [
  'We ran it for an hour and could not bring it about.',
  'Measured twice, with the same result.',
  'A photograph is with the yard office.',
  'It holds for now with a strap.',
  'The part number is on the card.',
  'Passengers were told.',
]
const ends = [
  'Best done while she lies at Mill Quay.',
  'Needs two people and a calm day.',
  'Ask Ilse before ordering.',
  'Please do not paint over it.',
  '',
]

export const describe = (chance: Chance): string =>
  [chance.pick(openings), chance.pick(middles), chance.pick(ends)].filter(Boolean).join(' ')

const remarks = [
  'Parts are ordered.',
  'Looked at it, needs a second pair of hands.',
  'Supplier promises next week.',
  'Done on the early shift.',
  'Shall we keep it for the refit?',
  'Seen, and I agree.',
  'The old one is in the store, shelf 4.',
  'Tried again this morning, no change.',
  'The surveyor comes on Thursday.',
  'Can somebody confirm the berth?',
]
export const remark = (chance: Chance): string => chance.pick(remarks)

const reasons = [
  'part on order',
  'no calm day yet',
  'berth is taken',
  'waiting for the surveyor’s answer',
  'specialist is ill',
  'the maker has to reply',
]
export const holdReason = (chance: Chance): string => chance.pick(reasons)
