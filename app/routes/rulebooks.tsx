import { RulebooksScreen } from '../rulebooks/rulebooks-screen'

export default function RulebooksRoute() {
  return <RulebooksScreen />
}
