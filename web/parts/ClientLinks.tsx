import { Link } from 'react-router'

/** `1 client`, `5 clients`. */
export const clientsIn = (count: number) => (count === 1 ? '1 client' : `${count} clients`)

/** Clients by name, one after the other, each leading to its page. */
export function ClientLinks({
  clients,
}: {
  clients: readonly { readonly id: string; readonly name: string }[]
}) {
  return clients.map(({ id, name }, index) => (
    <span key={id}>
      {index > 0 && ', '}
      <Link to={`/client/${id}`}>{name}</Link>
    </span>
  ))
}
