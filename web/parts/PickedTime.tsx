export { TimePicker as default } from '@mantine/dates'
