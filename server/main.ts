import { startVorfreude } from './start.ts'

startVorfreude({ isDemo: false, defaultFolder: 'data/business', prepare: () => Promise.resolve() })
