import { describe, expect, test } from '@jest/globals'
import { passwordFault } from './passwordRules.ts'

/* NIST SP 800-63B 5.1.1.2: commonly used, repeated, or made of what stands around it. */

const about = ['Ilse Quendel-Reimers', 'ilse@ballonfahrten.example', 'Ballonfahrten Uckermark']

describe('a new password', () => {
  test.each([
    ['1234567890', 'tried first'],
    ['qwertyuiop', 'tried first'],
    ['Password2026!', 'tried first'],
    ['iloveyou!!!!', 'tried first'],
    ['aaaaaaaaaaaa', 'repeats'],
    ['abababababab', 'repeats'],
    ['ballonfahrten1', 'made of your name'],
    ['Ilse-Quendel-Reimers', 'made of your name'],
    ['BallonfahrtenUckermark7', 'made of your name'],
  ])('%s is refused: %s', async (password, reason) => {
    expect(await passwordFault(password, about)).toContain(reason)
  })

  test.each([
    'Blåbær på tur 7',
    'correct horse battery staple',
    'Ballonfahrten im Nebel um fünf',
    'q8#Lw0z-Vt',
  ])('%s is taken', async (password) => {
    expect(await passwordFault(password, about)).toBeNull()
  })
})
