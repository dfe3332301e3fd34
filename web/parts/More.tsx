import { Button } from '@mantine/core'
import { looking } from '../app/theme.ts'
import { useIntersection } from '@mantine/hooks'
import { useEffect } from 'react'
import type { Parts } from '../app/queries.ts'
import styles from './States.module.css'

interface MoreProps {
  readonly of: Pick<Parts<unknown>, 'hasMore' | 'isFetching' | 'more'>
  /** Where other things follow below: they would run away from whoever scrolls to them. */
  readonly isByPressOnly?: boolean
}

/** The end of a list that goes on: more is fetched when it comes into sight, or at a press. */
export function More({ of, isByPressOnly = false }: MoreProps) {
  const { ref, entry } = useIntersection()
  const { hasMore, isFetching, more } = of
  const isInSight = entry?.isIntersecting ?? false
  useEffect(() => {
    if (isInSight && !isByPressOnly && hasMore && !isFetching) more()
  }, [isInSight, isByPressOnly, hasMore, isFetching, more])
  if (!hasMore) return null
  return (
    <div ref={ref} className={styles.more}>
      <Button {...looking} variant="default" size="compact-sm" loading={isFetching} onClick={more}>
        Show more
      </Button>
    </div>
  )
}
