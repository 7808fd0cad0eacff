import { useLoaderData } from 'react-router'
import type { Route } from './+types/pack'
import { PackScreen } from '../pack/pack-screen'
import { getPackFacts } from '../storage/packs'

export async function clientLoader({ params }: Route.ClientLoaderArgs) {
  return { pack: await getPackFacts(params.crateId) }
}

export default function PackRoute() {
  const { pack } = useLoaderData<typeof clientLoader>()
  return <PackScreen pack={pack} />
}
