'use client'
import {
  cm3FromIn3,
  feetFromMetres,
  in3FromCm3,
  NM_PER_LBF_IN,
  inchesFromMillimetres,
  metresFromFeet,
  millimetresFromInches,
  squareFeetFromSquareMetres,
  squareMetresFromSquareFeet,
} from '@/core/base/units'
import { NumberField, type NumberFieldProps } from '@/ui/number-field'
import { useUnits } from '../sync/context'

type Measure = Omit<NumberFieldProps, 'unit' | 'digits' | 'value' | 'onCommit' | 'onPreview' | 'min' | 'max'> & {
  value: number | null
  onCommit: (v: number | null) => void
  onPreview?: (v: number | null) => void
  min?: number
  max?: number
}

function Measured({
  value,
  onCommit,
  onPreview,
  min,
  max,
  unit,
  digits,
  show,
  read,
  ...rest
}: Measure & { unit: string; digits: number; show: (v: number) => number; read: (v: number) => number }) {
  const through = (use?: (v: number | null) => void) => use && ((v: number | null) => use(v === null ? null : read(v)))
  const limit = (v: number | undefined) => (v === undefined ? undefined : Number(show(v).toFixed(digits)))
  return (
    <NumberField
      {...rest}
      unit={unit}
      digits={digits}
      value={value === null ? null : show(value)}
      min={limit(min)}
      max={limit(max)}
      onCommit={through(onCommit)!}
      onPreview={through(onPreview)}
    />
  )
}

const same = (v: number): number => v

/** A length kept in metres, shown and typed in the person's units. */
export function LengthField(props: Measure) {
  const feet = useUnits() === 'imperial'
  return (
    <Measured
      {...props}
      unit={feet ? 'ft' : 'm'}
      digits={feet ? 2 : 3}
      show={feet ? feetFromMetres : same}
      read={feet ? metresFromFeet : same}
    />
  )
}

/** An area kept in square metres, shown and typed in the person's units. */
export function AreaField(props: Measure) {
  const feet = useUnits() === 'imperial'
  return (
    <Measured
      {...props}
      unit={feet ? 'ft²' : 'm²'}
      digits={feet ? 0 : 1}
      show={feet ? squareFeetFromSquareMetres : same}
      read={feet ? squareMetresFromSquareFeet : same}
    />
  )
}

/** A size kept in millimetres, shown and typed in millimetres or inches. */
export function SmallLengthField(props: Measure) {
  const inches = useUnits() === 'imperial'
  return (
    <Measured
      {...props}
      unit={inches ? 'in' : 'mm'}
      digits={inches ? 3 : 2}
      show={inches ? inchesFromMillimetres : same}
      read={inches ? millimetresFromInches : same}
    />
  )
}

/** A volume kept in cubic centimetres, shown and typed in them or in cubic inches. */
export function VolumeField(props: Measure) {
  const inches = useUnits() === 'imperial'
  return (
    <Measured
      {...props}
      unit={inches ? 'in³' : 'cm³'}
      digits={inches ? 2 : 1}
      show={inches ? in3FromCm3 : same}
      read={inches ? cm3FromIn3 : same}
    />
  )
}

/** A torque kept in newton metres, shown and typed in them or in pound-force inches. */
export function TorqueField(props: Measure) {
  const pounds = useUnits() === 'imperial'
  return (
    <Measured
      {...props}
      unit={pounds ? 'lbf·in' : 'N·m'}
      digits={pounds ? 1 : 2}
      show={pounds ? (nm) => nm / NM_PER_LBF_IN : same}
      read={pounds ? (lbfIn) => lbfIn * NM_PER_LBF_IN : same}
    />
  )
}
