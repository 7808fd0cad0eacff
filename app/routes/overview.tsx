import { useLoaderData } from 'react-router'
import type { Route } from './+types/overview'
import { Overview } from '../overview/overview'
import { listAsides } from '../storage/asides'
import { shelveDemos } from '../shelf/shelve-demo'
import { getCrate } from '../storage/crates'

export async function clientLoader({ params }: Route.ClientLoaderArgs) {
  // Opening a crate sets aside what of it cannot be read; the loader above this one runs beside it.
  await shelveDemos()
  await getCrate(params.crateId)
  return { asides: await listAsides(params.crateId) }
}

export default function OverviewRoute() {
  const { asides } = useLoaderData<typeof clientLoader>()
  return <Overview asides={asides} />
}
