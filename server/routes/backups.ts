import type { Router } from 'express'
import { endpoints } from '#core/api/endpoints.ts'
import type { BackupState } from '../engine/loop/backupKeeping.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { Refusal } from '../http/problems.ts'
import { serve } from './route.ts'

const asView = ({ backups, ...state }: BackupState) => ({ ...state, backups: [...backups] })

/** The backups of the data folder. */
export function backupRoutes(router: Router, { application, backups }: RunningApplication) {
  const { statements } = application.store
  const keeping = () => {
    if (backups) return backups
    throw new Refusal('not found', 'The demo takes no backups: it is loaded anew with --fresh.')
  }
  serve(router, statements, endpoints.backups, () => asView(keeping().state()))
  serve(router, statements, endpoints.takeBackup, async () => asView(await keeping().take()))
}
