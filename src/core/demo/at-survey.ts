import { newResidualDevice } from '../job/board'
import { type DemoJob, fit, fitness, off, parted, point, rooms, way } from './kit'

/** A stage wing at its survey: a neutral on the wrong bar, an outlet on the lights, and a way that is not traced. */
export const atSurvey: DemoJob = {
  id: 'stage-wing',
  region: 'united-kingdom',
  title: 'Sockets in the stage wing',
  place: 'Village hall',
  by: 'Caretaker’s electrician',
  start: '2026-11-24T09:00:00.000Z',
  about: 'At the survey: half traced, and some of what was found at the board is wrong. Find it.',
  edits: [
    {
      kind: 'brief.set',
      patch: {
        request: 'Two double sockets in the wing for the sound desk. The one there trips with the lights.',
        askedBy: 'The drama group',
        environment: 'dry',
        premises: 'hall',
      },
    },
    {
      kind: 'load.set',
      circuit: 'c1',
      patch: {
        name: 'Sound desk and amplifiers',
        kind: 'sound-desk',
        amount: 1200,
        volts: 230,
        basis: 'watts',
        connection: 'plug',
        nature: 'electronic',
        continuous: true,
      },
    },
    ...fitness(fit),
    {
      kind: 'supply.set',
      patch: { board: 'Stage consumer unit', earthing: 'tn-s', zeOhm: 0.55, pscKa: 1.1, upstream: { kind: 'fuse', ratingA: 60 } },
    },
    { kind: 'board.set', id: 'main', patch: { spaces: 8, free: [6, 7, 8], mainA: 63, mainSwitch: 'double-pole' } },
    { kind: 'residual-device.add', item: newResidualDevice('g1', 'RCD, sockets', { ratingA: 63, tripMa: 30, type: 'A', delayed: false }) },
    way('v1', 'Sockets, stage', 32, { position: 1, curve: 'B', shape: 'ring', residual: 'g1', bar: 'g1' }),
    way('v2', 'Sockets, wing', 20, { position: 2, curve: 'B', shape: 'radial', residual: 'g1', bar: 'main' }),
    way('v3', 'Lights, stage', 6, { position: 3, curve: 'B', shape: 'radial', residual: 'none', bar: 'main' }),
    way('v4', 'not labelled', 16, { position: 4, curve: 'B', residual: 'unknown' }),
    way('v5', 'Water heater, green room', 16, { position: 5, curve: 'B', shape: 'radial', residual: 'none', bar: 'main' }),
    {
      kind: 'point.add',
      points: [
        point('q1', 'Stage left', 'Stage', 'outlet', 600, { heightMm: 450, outlets: 2 }),
        point('q2', 'Stage right', 'Stage', 'outlet', 600, { heightMm: 450, outlets: 2 }),
        point('q3', 'Wing, by the ladder', 'Wing', 'outlet', 400, { heightMm: 900, condition: 'worn' }),
        point('q4', 'Wing, behind the flats', 'Wing', 'outlet', null, { heightMm: 300 }),
        point('q5', 'Wing light', 'Wing', 'light', 60),
        point('q6', 'Stage lights', 'Stage', 'light', 600),
        point('q7', 'Light switch', 'Wing', 'switch', 0, { heightMm: 1350 }),
        point('q8', 'Water heater', 'Green room', 'fixed', 2000, { appliance: 'water-heater-storage' }),
      ],
    },
    ...rooms({ Stage: [0, 6, 4, true], Wing: [0, 9, 2, false], 'Green room': [0, 12, 3, true] }),
    off('t1', 'v1', ['q1', 'q2'], '2026-11-24T09:20:00.000Z'),
    off('t2', 'v3', ['q3', 'q5', 'q6', 'q7'], '2026-11-24T09:32:00.000Z'),
    off('t3', 'v5', ['q8'], '2026-11-24T09:40:00.000Z'),
    parted('t4', '2026-11-24T10:05:00.000Z', 'q7', ['q3', 'q5'], 1),
  ],
  readings: [],
}
