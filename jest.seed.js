import fc from 'fast-check'

/*
 * What is tried at random is the same in every run, so that a change is judged by what it changes; `./run test --full` looks
 * further, with another seed each time.
 */
if (process.env['VORFREUDE_FULL'] !== 'yes') fc.configureGlobal({ seed: 20_260_514 })
