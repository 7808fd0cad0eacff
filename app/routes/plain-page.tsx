import { Outlet } from 'react-router'
import { TopBar } from '../ui/top-bar'

export default function PlainPage() {
  return (
    <div className="flex min-h-full flex-col">
      <TopBar />
      <Outlet />
    </div>
  )
}
