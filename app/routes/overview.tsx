import { Overview } from '../overview/overview'

export default Overview
