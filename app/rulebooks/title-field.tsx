interface TitleFieldProps {
  label: string
  value: string
  onChange: (title: string) => void
}

/** Asks what a game is called. */
export const TitleField = ({ label, value, onChange }: TitleFieldProps) => (
  <label className="flex flex-col gap-1">
    <span className="caption">{label}</span>
    <input
      className="field"
      required
      maxLength={60}
      value={value}
      onChange={(event) => onChange(event.currentTarget.value)}
    />
  </label>
)
