import fc from 'fast-check'

// `npm test` takes the same cases each time, so that what it says depends on the code alone. `npm run unit` draws new ones each time;
// SEED=… gives either a seed of your choice.
fc.configureGlobal({ ...fc.readConfigureGlobal(), seed: Number(process.env.SEED ?? 20_261) })
