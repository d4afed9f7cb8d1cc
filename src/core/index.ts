/*
 * What other programs may use of the core: calculators by name, the Job file, and what follows from a job. Everything else may change
 * without notice.
 */
export { calculate, calculateOne, calculators, calculatorSchemas } from './contract/calculators'
export { builtOf } from './contract/built'
export { evaluate } from './evaluate/evaluate'
export { read } from './installation/installation'
export { applyEdit, describeEdit } from './job/edits'
export { readJobFile, writeJobFile } from './job/file'
export { newJob } from './job/schema'
export { regionIds } from './region/types'
