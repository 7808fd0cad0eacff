import { PathsScreen } from '../paths/paths-screen'

export default PathsScreen
