import { createTheme, type MantineColorsTuple } from '@mantine/core'

const aubergine: MantineColorsTuple = [
  '#f6effa',
  '#e8dbf0',
  '#d3b4e4',
  '#bc8cd5',
  '#a56bc5',
  '#8a4fab',
  '#5a2d6e',
  '#4e2660',
  '#421f52',
  '#361843',
]

const brick: MantineColorsTuple = [
  '#fbeae6',
  '#f5cfc7',
  '#f0b0a2',
  '#e58a76',
  '#d6654d',
  '#c54c34',
  '#b23a26',
  '#972f1e',
  '#7c2617',
  '#611d11',
]

const night: MantineColorsTuple = [
  '#f1edf7',
  '#d5cde3',
  '#b9b0cb',
  '#8d82a3',
  '#5a4e70',
  '#4a3f5e',
  '#332943',
  '#251d33',
  '#1c1626',
  '#17111f',
]

const family =
  "'Atkinson Hyperlegible Next Variable', 'Atkinson Hyperlegible Next', Verdana, 'DejaVu Sans', sans-serif"

/**
 * For buttons that change nothing of the business: who only looks has those, and none of the others.
 */
export const looking = { 'data-act': 'no' } as const

/** Our looks on Mantine's components. */
export const theme = createTheme({
  respectReducedMotion: true,
  fontFamily: family,
  headings: { fontFamily: family, fontWeight: '650' },
  primaryColor: 'aubergine',
  primaryShade: { light: 6, dark: 5 },
  colors: { aubergine, brick, dark: night },
  black: '#231b33',
  white: '#ffffff',
  defaultRadius: 6,
  focusRing: 'auto',
  components: {
    Button: { defaultProps: { size: 'sm', 'data-act': 'yes' } },
    TextInput: { defaultProps: { size: 'sm' } },
  },
})
