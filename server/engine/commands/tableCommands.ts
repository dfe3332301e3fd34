import { done, refused, type Result } from '#core/model/problem.ts'
import { bringClientsIn, takeClientsBack, type ComingIn, type DoubleAct } from '#core/tables/bringIn.ts'
import { isClientUsed, readClientImport } from '../../db/clientImports.ts'
import { readClient } from '../../db/clientStore.ts'
import type { LookedAtRow } from '../../tables/openTables.ts'
import type { Application, CommandCall } from '../application.ts'

/** What is to be done with the rows of a table. */
export interface BringingIn {
  readonly fileName: string
  readonly rows: readonly LookedAtRow[]
  readonly actOf: (line: number) => DoubleAct
}

/** Clients of tables, brought in and taken back: each all or nothing. */
export function createTableCommands(application: Application) {
  const { statements } = application.store
  const comingOf = ({ rows, actOf }: BringingIn): readonly ComingIn[] =>
    rows.flatMap(({ line, input, double }): ComingIn[] => {
      if (!double) return [{ input, into: null }]
      const act = actOf(line)
      if (act === 'add') return [{ input, into: null }]
      if (act === 'skip' || double.clientId === null) return []
      const into = readClient(statements, double.clientId)
      // Gone since it was looked at: nobody to take it for.
      return [{ input, into }]
    })
  return {
    bringInClients: (
      call: CommandCall,
      bringing: BringingIn,
    ): Result<{ importId: string; added: number; merged: number; left: number }> =>
      application.command(call, (context) => {
        const coming = comingOf(bringing)
        const { effects, brought } = bringClientsIn(coming, bringing.fileName, context)
        if (brought.clients.length === 0) {
          return refused('not allowed now', 'Nobody would come in: every row is skipped or already there.')
        }
        const added = brought.clients.filter(({ was }) => was === null).length
        const answer = {
          importId: brought.id,
          added,
          merged: brought.clients.length - added,
          left: bringing.rows.length - coming.length,
        }
        return done({ effects, answer })
      }),
    takeClientsBack: (
      call: CommandCall,
      id: string,
    ): Result<{ taken: number; kept: { id: string; name: string }[] }> =>
      application.command(call, (context) => {
        const brought = readClientImport(statements, id)
        if (!brought) return refused('not allowed now', 'This was taken back already.')
        const { effects, kept } = takeClientsBack(
          brought,
          (clientId) => ({
            client: readClient(statements, clientId),
            isUsed: isClientUsed(statements, clientId),
          }),
          context,
        )
        return done({
          effects,
          answer: {
            taken: brought.clients.length - kept.length,
            kept: kept.slice(0, 100).map(({ id: keptId, name }) => ({ id: keptId, name })),
          },
        })
      }),
  }
}
