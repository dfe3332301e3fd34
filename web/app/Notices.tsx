import { Notifications } from '@mantine/notifications'

/** What was said in passing. */
export default function Notices() {
  return <Notifications position="bottom-right" />
}
