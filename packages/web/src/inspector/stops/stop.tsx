import type { ReactNode } from 'react'
import styles from './stops.module.css'

/** One stop of the path: what it is called, what is said of it at the right, and what stands in it. */
export function Stop({ title, said, children }: { title: string; said?: ReactNode; children: ReactNode }) {
  return (
    <div className={styles.stop}>
      <header className={styles.head}>
        <h2>{title}</h2>
        {said && <span>{said}</span>}
      </header>
      {children}
    </div>
  )
}

/** Fields whose signs name them, over the whole width: a name beside them would cut their values. */
export function WideLine({ children }: { children: ReactNode }) {
  return <div className={styles.wide}>{children}</div>
}

/** A field with its name, on a pitch of 29 px. */
export function Line({ name, children }: { name: string; children: ReactNode }) {
  return (
    <div className={styles.line}>
      <label>{name}</label>
      {children}
    </div>
  )
}
