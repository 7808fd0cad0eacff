import { useLoaderData } from 'react-router'
import type { Route } from './+types/trial'
import { getPackFacts } from '../storage/packs'
import { TrialScreen } from '../trial/trial-screen'

export async function clientLoader({ params }: Route.ClientLoaderArgs) {
  const pack = await getPackFacts(params.crateId)
  return { packed: pack ? { sha256: pack.sha256, packedAt: pack.packedAt } : null }
}

export default function TrialRoute() {
  const { packed } = useLoaderData<typeof clientLoader>()
  return <TrialScreen packed={packed} />
}
