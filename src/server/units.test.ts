import { describe, expect, it } from 'vitest'
import { saidBy } from '../../tests/support/said'

/* A North American job says nothing in metric units, nor one of the metric worlds in feet and inches, on any paper. */

const metric = /(?<![\w.])\d[\d.,]*\s?(mm²?|m|cm|km|N·m|cm³|mΩ\/m)(?![\w/])/
const imperial = /(?<![\w.])\d[\d.,/-]*\s?(ft²?|in³|lbf·in)(?!\w)/
describe('the units of the place', () => {
  it.each(['sound3-na-routed-house-walls-only.json', 'sound3-na-nal.json', 'na-long-nipple.json', 'sound-na-kiln.json'])(
    'nothing is metric in %s',
    async (file) => {
      expect((await saidBy(file, 'imperial')).filter((l) => metric.test(l))).toEqual([])
    },
    60_000,
  )
  it.each(['sound3-uk-ukr.json', 'sound-za-geyser.json'])(
    'nothing is in feet or inches in %s',
    async (file) => {
      expect((await saidBy(file, 'metric')).filter((l) => imperial.test(l))).toEqual([])
    },
    60_000,
  )
})
