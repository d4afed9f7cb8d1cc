import type { Installation } from '../installation/installation'
import type { NetworkInput } from '../network/types'
import { M_PER_KFT, naAlpha75C, naOhmPerKft } from '../region/north-america/awg'
import type { ConductorMetal, RegionId } from '../region/types'
import { worlds } from '../region/worlds'

/** Ohms of a metre of a conductor at 20 °C; of AWG as tabled, brought down from 75 °C. NFPA 70 Chapter 9 Table 8 note 2. */
export function perMetre(region: RegionId, cable: string, size: string, metal: ConductorMetal = 'copper'): number | null {
  const { metric } = worlds[region]
  if (metric === null) {
    const tabled = naOhmPerKft(metal, size)
    return tabled === undefined ? null : tabled / M_PER_KFT / (1 + naAlpha75C[metal] * (75 - 20))
  }
  const milli = (metric.cables[cable]?.data ?? metric.usual).milliOhmPerMetre20C[size]
  return milli === undefined ? null : milli / 1000
}

/** Of each conductor of a source not measured: a presumption, and shown as one. */
export const SOURCE_OHM = 0.1
/** Of an electrode not measured: likewise. */
const ELECTRODE_OHM = 100

/** The supply of a job as a source behind its loop; `loopKnown` where that was measured. */
export function supplyOf(job: Installation): { readonly loopKnown: boolean; readonly supply: NetworkInput['supply'] } {
  const { zeOhm, earthing } = job.supply
  const { splitPhase, lineV } = worlds[job.region]
  const tt = earthing === 'tt'
  const known = zeOhm !== null && zeOhm > 0
  return {
    loopKnown: known,
    supply: {
      system: splitPhase ? 'split-phase' : 'single-phase',
      volts: lineV,
      frequencyHz: splitPhase ? 60 : 50,
      sourceOhm: known && !tt ? zeOhm / 2 : SOURCE_OHM,
      earthing: tt ? 'tt' : 'tn',
      ...(tt ? { electrodeOhm: known && zeOhm > SOURCE_OHM ? zeOhm - SOURCE_OHM : ELECTRODE_OHM } : {}),
    },
  }
}
