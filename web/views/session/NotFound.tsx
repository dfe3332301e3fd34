import { Link } from 'react-router'
import { EmptyState } from '../../parts/States.tsx'

export default function NotFound() {
  return (
    <EmptyState title="There is no page at this address.">
      <p>
        Go to the <Link to="/desk">Desk</Link>, or choose a section above.
      </p>
    </EmptyState>
  )
}
