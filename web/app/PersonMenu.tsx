import { Menu, UnstyledButton, useMantineColorScheme } from '@mantine/core'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useNavigate } from 'react-router'
import { forgetUnsaved } from './autosave.ts'
import { useBusiness } from './business.ts'
import styles from './PersonMenu.module.css'
import { call } from './api.ts'
import { nothingAsked, rememberSignedIn, signingOut } from './queries.ts'

const looks = [
  { value: 'light', words: 'Light' },
  { value: 'dark', words: 'Dark' },
  { value: 'auto', words: 'As the device' },
] as const

/** Who is signed in, the looks, and the way out. */
export function PersonMenu() {
  const { session, overview } = useBusiness()
  const { colorScheme, setColorScheme } = useMantineColorScheme()
  const client = useQueryClient()
  const navigate = useNavigate()
  // Without loading the page anew: that would wipe out what is already being typed to sign in again.
  const signedOut = async () => {
    forgetUnsaved()
    rememberSignedIn(false)
    // Who is signed in first: nothing else is asked for any more then.
    await client.refetchQueries({ queryKey: ['session'] })
    client.removeQueries({ predicate: ({ queryKey }) => queryKey[0] !== 'session' })
    void navigate('/')
  }
  // The pages are gone while this is under way, and what they had asked for is answered first: it would be refused.
  const leave = async () => {
    await nothingAsked()
    return call('signOut')
  }
  const signOut = useMutation({ mutationKey: signingOut, mutationFn: leave, onSuccess: signedOut })
  const name = session.person?.name ?? ''
  return (
    <Menu position="bottom-end" withArrow>
      <Menu.Target>
        <UnstyledButton className={styles.person} aria-label={`${name}: looks and signing out`}>
          {name.split(' ')[0]} ▾
        </UnstyledButton>
      </Menu.Target>
      <Menu.Dropdown>
        <Menu.Label>
          {name}, {overview.businessName}
          {session.person?.role === 'onlooker' && ' · you look only'}
        </Menu.Label>
        {looks.map(({ value, words }) => (
          <Menu.Item
            key={value}
            role="menuitemradio"
            aria-checked={colorScheme === value}
            leftSection={colorScheme === value ? '✓' : '\u2003'}
            onClick={() => setColorScheme(value)}
          >
            {words}
          </Menu.Item>
        ))}
        <Menu.Divider />
        <Menu.Label>Time data {overview.timeDataVersion}</Menu.Label>
        <Menu.Item onClick={() => signOut.mutate()}>Sign out</Menu.Item>
      </Menu.Dropdown>
    </Menu>
  )
}
