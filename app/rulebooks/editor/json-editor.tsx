import { autocompletion, type CompletionContext, type CompletionResult } from '@codemirror/autocomplete'
import { json } from '@codemirror/lang-json'
import { HighlightStyle, syntaxHighlighting } from '@codemirror/language'
import { lintGutter, linter } from '@codemirror/lint'
import { EditorView } from '@codemirror/view'
import { tags } from '@lezer/highlight'
import CodeMirror from '@uiw/react-codemirror'
import { useMemo } from 'react'
import { completionsAt } from './completions'
import { readDraft } from './draft'

const complete = ({ state, pos, explicit }: CompletionContext): CompletionResult | null => {
  const found = completionsAt(state.doc.toString(), pos)
  if (!found || (!explicit && found.from === pos)) return null
  return { from: found.from, to: found.to, options: found.words.map((label) => ({ label })), filter: true }
}

const faults = linter(({ state }) =>
  readDraft(state.doc.toString()).faults.map(({ from, to, message, severity }) => ({
    from: Math.min(from, state.doc.length),
    to: Math.min(to, state.doc.length),
    message,
    severity: severity === 'blocks' ? ('error' as const) : ('warning' as const),
  })),
)

const look = EditorView.theme({
  '&': { fontSize: '13px', backgroundColor: 'transparent', height: '100%' },
  '.cm-content, .cm-gutters': { fontFamily: 'var(--font-mono)' },
  '.cm-gutters': { backgroundColor: 'transparent', border: 'none' },
  '.cm-scroller': { overflow: 'auto' },
})

/** Fields, words and numbers apart, and none of them in a colour of a status. */
const inks = HighlightStyle.define([
  { tag: tags.propertyName, color: 'var(--color-spruce)' },
  { tag: tags.string, color: 'var(--color-ink)' },
  { tag: [tags.number, tags.bool, tags.null], color: 'var(--color-ink)', fontWeight: '600' },
])

interface JsonEditorProps {
  text: string
  onChange: (text: string) => void
  onCreated: (view: EditorView) => void
}

/** The text of a rulebook: words are completed, faults stand where they are. */
export function JsonEditor({ text, onChange, onCreated }: JsonEditorProps) {
  const extensions = useMemo(
    () => [
      json(),
      faults,
      lintGutter(),
      look,
      syntaxHighlighting(inks),
      EditorView.lineWrapping,
      autocompletion({ override: [complete] }),
      EditorView.contentAttributes.of({ 'aria-label': 'The rulebook as JSON' }),
    ],
    [],
  )
  return (
    <CodeMirror
      value={text}
      height="100%"
      className="h-full"
      theme="none"
      basicSetup={{ autocompletion: false, foldGutter: true, highlightActiveLine: false }}
      extensions={extensions}
      onChange={onChange}
      indentWithTab={false}
      onCreateEditor={(view) => {
        // What scrolls is reached by keyboard too.
        view.scrollDOM.tabIndex = 0
        onCreated(view)
      }}
    />
  )
}
