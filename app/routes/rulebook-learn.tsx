import { LearnScreen } from '../rulebooks/learn-screen'

export default function RulebookLearnRoute() {
  return <LearnScreen />
}
