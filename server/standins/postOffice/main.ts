import { whenLeft } from '../child.ts'
import { listenAsPostOffice } from './listen.ts'

/* The built-in post office, a process of its own. It leaves when the process that started it is gone. */

const folder = process.argv[2]
if (folder === undefined) throw new Error('The post office needs its folder')
const { port, mailboxPort, close } = await listenAsPostOffice(folder)
process.send?.({ port, mailboxPort })
whenLeft(close)
