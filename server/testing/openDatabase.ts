import { openStore } from '../db/database.ts'

/* Opens the database of a folder, bringing it up to date, and closes it: for a process that is killed meanwhile. */

const [folder] = process.argv.slice(2)
if (folder === undefined) throw new Error('It needs a folder')
openStore(folder).close()
