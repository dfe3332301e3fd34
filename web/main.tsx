import { StrictMode } from 'react'
import { createRoot } from 'react-dom/client'
import './app/styles.ts'
import { App } from './app/App.tsx'
import { fetchFrame } from './app/queries.ts'
import { fetchViewAt } from './app/views.ts'

const root = document.getElementById('root')
if (!root) throw new Error('The page has no root element')
fetchFrame()
fetchViewAt(location.pathname)
createRoot(root).render(
  <StrictMode>
    <App />
  </StrictMode>,
)
