import { QueryClient, QueryObserver } from '@tanstack/react-query'
import { expect, test } from 'vitest'
import { readAgain } from './read-again.ts'

test('a list that is read again is that of after the change, also where its first answer is still on its way', async () => {
  const client = new QueryClient({ defaultOptions: { queries: { retry: false } } })
  const answers: ((list: string[]) => void)[] = []
  const queryFn = () => new Promise<string[]>((resolve) => answers.push(resolve))
  const observer = new QueryObserver(client, { queryKey: ['profiles'], queryFn })
  const end = observer.subscribe(() => undefined)
  await expect.poll(() => answers.length).toBe(1)
  const done = readAgain(client, 'profiles')
  await expect.poll(() => answers.length).toBe(2)
  answers[1]!(['kept'])
  answers[0]!([])
  await done
  expect(observer.getCurrentResult().data).toEqual(['kept'])
  end()
  client.clear()
})
