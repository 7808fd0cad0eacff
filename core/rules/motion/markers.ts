import { liftOf, standingMarkers, type StandingMarker } from '../../operations/motion/markers.ts'
import { formatLength } from '../../support/wording.ts'
import { nowhere, type Finding, type RuleContext, type RuleFamily } from '../rule.ts'

const mend = { step: 'place-markers', label: 'Place markers', parameters: {} }

/**
 * Markers: how many there are of each, how high they stand above what is under them, how far below the lowest point.
 */
export const markerRules: RuleFamily = {
  id: 'markers',
  ofMeshes: true,
  check(context) {
    if (!context.kind.markers) return []
    const standing = standingMarkers(context.document, context.rulebook)
    return [
      ...checkCounts(standing, context),
      ...standing.flatMap((each) => [...checkHeight(each, context), ...checkRiding(each)]),
    ]
  },
}

function checkCounts(standing: readonly StandingMarker[], { rulebook }: RuleContext): Finding[] {
  return rulebook.markers.flatMap(({ name, meaning, least, most }): Finding[] => {
    const own = standing.filter(({ marker }) => marker.name === name)
    const count = own.filter(({ isRead }) => isRead).length
    const misnamed = own.find(({ isRead }) => !isRead)
    if (count >= least && (most === null || count <= most)) return []
    const limit = most === null ? `${least} or more` : least === most ? String(most) : `${least} to ${most}`
    return [
      {
        rule: 'marker-count',
        severity: 'blocks',
        stage: 'motion',
        title: count < least ? 'Marker missing' : 'Too many markers',
        where: name,
        place: nowhere,
        value: String(count),
        limit,
        message:
          `${count === 0 ? 'No' : count} ${name}; the game wants ` +
          `${limit}${misnamed ? ` and does not know “${misnamed.name}” for one` : ''}`,
        why: meaning,
        mend: count > least ? null : misnamed ? { step: 'clean-names', label: 'Clean names', parameters: {} } : mend,
      },
    ]
  })
}

function checkHeight(standing: StandingMarker, { rulebook }: RuleContext): Finding[] {
  const { name, marker, at, above, below } = standing
  const isOff = liftOf(standing) !== null
  const unit = rulebook.space.unit.plural
  const common = { severity: 'risky' as const, stage: 'motion' as const, where: name, mend }
  const place = { parts: [], bounds: { min: at, max: at }, spots: [at], texture: null }
  const wanted = marker.aboveGround
  if (wanted !== null && above !== undefined && (above === null || isOff))
    return [
      {
        ...common,
        place,
        rule: 'marker-height',
        title: above === null ? 'Marker over nothing' : above < wanted ? 'Marker sunk' : 'Marker floats',
        value: above === null ? 'nothing under it' : `${formatLength(above)} ${unit}`,
        limit: `${formatLength(wanted)} ${unit}`,
        message:
          above === null
            ? `There is nothing under ${name}`
            : `${name} is ${formatLength(Math.abs(above))} ${unit} ${above < 0 ? 'below' : 'above'} what is under ` +
              `it; ${formatLength(wanted)} is meant`,
        why: marker.meaning,
        mend: above === null ? null : mend,
      },
    ]
  const range = marker.belowLowest
  if (range && below !== undefined && isOff)
    return [
      {
        ...common,
        place,
        rule: 'marker-below',
        title: below < range.least ? 'Limit too high' : 'Limit too low',
        value: `${formatLength(Math.abs(below))} ${unit} ${below < 0 ? 'above' : 'below'}`,
        limit: `${range.least} to ${range.most} ${unit} below`,
        message:
          `${name} is ${formatLength(Math.abs(below))} ${unit} ${below < 0 ? 'above' : 'below'} the lowest point ` +
          `of the whole motion; ${range.least} to ${range.most} below is meant`,
        why: marker.meaning,
      },
    ]
  return []
}

/** What hangs on something that moves and may not, and what may and is left behind. */
function checkRiding({ name, marker, at, ridesOn, leftBy }: StandingMarker): Finding[] {
  const common = {
    stage: 'motion' as const,
    where: name,
    place: { parts: [], bounds: { min: at, max: at }, spots: [at], texture: null },
    why: marker.meaning,
    mend,
  }
  if (ridesOn && !marker.mayRideGroup)
    return [
      {
        ...common,
        rule: 'marker-rides',
        severity: 'risky',
        title: 'Marker moves along',
        value: `hangs on ${ridesOn.getName()}`,
        limit: 'stands still',
        message: `${name} hangs on ${ridesOn.getName()}, which moves; the game reads its place once`,
      },
    ]
  if (leftBy)
    return [
      {
        ...common,
        rule: 'marker-left-behind',
        severity: 'note',
        title: 'Marker is left behind',
        value: 'stands still',
        limit: `rides on ${leftBy.getName()}`,
        message: `${name} stands over ${leftBy.getName()}, which moves away under it`,
      },
    ]
  return []
}
