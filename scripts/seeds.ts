import fc from 'fast-check'

// Property tests run with one seed, so that a failure is everyone's failure; `npm run soak` passes new ones.
fc.configureGlobal({ seed: Number(process.env['SEED'] ?? 4600), numRuns: Number(process.env['RUNS'] ?? 100) })
