import type { ReactNode } from 'react'
import { Link } from 'react-router'

/** The head of every page: our mark, where one is, and what can be done. */
export function TopBar({ children, actions }: { children?: ReactNode; actions?: ReactNode }) {
  return (
    <header className="flex h-12 shrink-0 items-center gap-3 border-b border-edge bg-slip px-4">
      <Link to="/" className="flex items-center gap-2 font-heading text-[16px] font-[650] tracking-tight">
        <img src="/crate.svg" alt="" width={22} height={22} />
        Gentle Crate
      </Link>
      {children && <span className="h-7 w-px bg-edge" aria-hidden="true" />}
      <div className="min-w-0 flex-1 truncate text-[13.5px]">{children}</div>
      <div className="flex items-center gap-2.5">{actions}</div>
    </header>
  )
}
