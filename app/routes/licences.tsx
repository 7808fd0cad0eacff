import { useLoaderData } from 'react-router'
import { LicencesPage } from '../licences/licences-page'
import { readLicences } from '../licences/licences'

export const clientLoader = async () => ({ licences: await readLicences() })

export default function LicencesRoute() {
  const { licences } = useLoaderData<typeof clientLoader>()
  return <LicencesPage licences={licences} />
}
