import type { QueryClient } from '@tanstack/react-query'

/**
 * Reads a list once more, after a change of it. A first answer that is still on its way may be from before the change: it is not
 * waited for, and does not count.
 */
export async function readAgain(client: QueryClient, list: string): Promise<void> {
  await client.cancelQueries({ queryKey: [list] })
  await client.invalidateQueries({ queryKey: [list] })
}
