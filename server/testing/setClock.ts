import { readFileSync } from 'node:fs'

/*
 * Loaded before a server in a process of its own, to set that machine's clock: it is as many milliseconds ahead as the
 * file named by VORFREUDE_CLOCK_FILE says.
 */

const file = process.env['VORFREUDE_CLOCK_FILE']
if (file === undefined) throw new Error('VORFREUDE_CLOCK_FILE names no file')

const right = Date.now.bind(Date)
let ahead = 0
setInterval(() => {
  ahead = Number(readFileSync(file, 'utf8')) || 0
}, 50).unref()
Date.now = () => right() + ahead
