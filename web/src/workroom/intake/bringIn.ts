import type { QueryClient } from '@tanstack/react-query'
import { type Api, api, body } from '../../api/client'
import { w } from '../../words'
import { type Brought, withoutLitter } from './brought'
import { intakes } from './data'
import { isSending, send } from './queue'
import { owner } from './queueState'

/**
 * Brings files in: with those that are on their way already, or as an intake of their own.
 * @param goesOn An intake that these go on with, if nothing else is on its way.
 * @returns The intake; null where there was nothing to bring.
 */
export async function bringIn(
  client: QueryClient,
  brought: Brought[],
  about: Api['IntakeAbout'],
  goesOn: string | null = null,
): Promise<string | null> {
  const { takes } = await client.fetchQuery(intakes)
  const files = withoutLitter(brought, takes)
  if (files.length === 0) return null
  const into =
    (isSending() && owner.intake) ||
    goesOn ||
    (await body(api.POST('/api/intakes', { body: { about } }), w.errors.away)).id
  await send(files, into, takes)
  void client.invalidateQueries({ queryKey: ['intakes'] })
  return into
}
