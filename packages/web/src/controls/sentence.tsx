import { createContext, use, type ReactNode } from 'react'

const InSentence = createContext(false)

/** Whether a control stands in a sentence: then it is a word of it, as wide as what it says, edited where it stands. */
export const useInSentence = (): boolean => use(InSentence)

/** Words and controls in a row that reads as a sentence. */
export function Sentence({ className, children }: { className?: string | undefined; children: ReactNode }) {
  return (
    <div className={className}>
      <InSentence value>{children}</InSentence>
    </div>
  )
}
