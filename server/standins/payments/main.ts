import { whenLeft } from '../child.ts'
import { listenForPayments } from './listen.ts'

/* The built-in page for paying, a process of its own. It leaves when the process that started it is gone. */

const key = process.env['VORFREUDE_PAYMENTS_KEY']
if (key === undefined) throw new Error('The page for paying needs its key')
const { port, close } = await listenForPayments(key)
process.send?.({ port })
whenLeft(close)
