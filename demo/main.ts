import { startVorfreude } from '#server/start.ts'
import { laterScript } from './cameIn.ts'
import { loadDemo } from './load.ts'

startVorfreude({ isDemo: true, defaultFolder: 'data/demo', prepare: loadDemo, script: laterScript })
