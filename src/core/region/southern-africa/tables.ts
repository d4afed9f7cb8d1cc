/**
 * Facts for the 230 V, 50 Hz pack used in southern Africa. SANS 10142-1 governs and is to be checked locally; current-carrying
 * capacities here are those of IEC 60364-5-52, the international table the national one follows.
 */
export const southernAfricaTables = {
  nominalV: 230,
  cmin: 0.95,
  circuitBreakerRatingsA: [5, 10, 15, 20, 25, 30, 32, 40, 50, 60, 63],
  magneticMultiple: { B: 5, C: 10, D: 20 },
  ampacity: {
    clause: 'IEC 60364-5-52 Table B.52.2, PVC, copper, two loaded conductors, 30 C ambient',
    methods: ['A1', 'A2', 'B1', 'B2', 'C'],
    methodMeaning: {
      A1: 'single-cores in conduit in an insulated wall',
      A2: 'multi-core in conduit in an insulated wall',
      B1: 'single-cores in conduit on a wall',
      B2: 'multi-core in conduit on a wall',
      C: 'clipped direct to a wall',
    },
    '1.5 mm2': [14.5, 14, 17.5, 16.5, 19.5],
    '2.5 mm2': [19.5, 18.5, 24, 23, 27],
    '4 mm2': [26, 25, 32, 30, 36],
    '6 mm2': [34, 32, 41, 38, 46],
    '10 mm2': [46, 43, 57, 52, 63],
    '16 mm2': [61, 57, 76, 69, 85],
    '25 mm2': [80, 75, 101, 90, 112],
  },
  ambientFactor: {
    clause: 'IEC 60364-5-52 Table B.52.14, PVC; take the next listed temperature up',
    C: [10, 15, 20, 25, 30, 35, 40, 45, 50, 55, 60],
    factor: [1.22, 1.17, 1.12, 1.06, 1.0, 0.94, 0.87, 0.79, 0.71, 0.61, 0.5],
  },
  groupingFactor: {
    clause: 'IEC 60364-5-52 Table B.52.17 item 1, bunched; take the next listed number up',
    circuits: [1, 2, 3, 4, 5, 6, 7, 8, 9, 12, 16, 20],
    factor: [1.0, 0.8, 0.7, 0.65, 0.6, 0.57, 0.54, 0.52, 0.5, 0.45, 0.41, 0.38],
  },
  voltDropMvPerAm: {
    clause: 'two-wire, 70 C',
    '1.5 mm2': 29,
    '2.5 mm2': 18,
    '4 mm2': 11,
    '6 mm2': 7.3,
    '10 mm2': 4.4,
    '16 mm2': 2.8,
    '25 mm2': 1.75,
  },
  voltDropLimit: { clause: 'SANS 10142-1: 5 % of nominal from the point of supply', lighting: 0.05, other: 0.05 },
  resistanceMilliohmPerM20C: {
    clause: 'IEC 60228 class 1 and 2 maxima, plain copper',
    '1.5 mm2': 12.1,
    '2.5 mm2': 7.41,
    '4 mm2': 4.61,
    '6 mm2': 3.08,
    '10 mm2': 1.83,
    '16 mm2': 1.15,
    '25 mm2': 0.727,
  },
  operatingTemperatureMultiplier: { value: 1.2 },
  adiabaticK: { clause: 'IEC 60364-5-54, PVC, copper, incorporated in a cable', value: 115 },
  earthLeakageMa: 30,
} as const
