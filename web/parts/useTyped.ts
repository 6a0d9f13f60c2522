import { useCallback, useEffect, useRef, useState } from 'react'

/**
 * The text of a field that is edited in place. It follows what is shown until somebody types: from then on what comes from the
 * server does not take the place of what is typed, until that has gone off or is put back.
 * @param leave takes what is typed where the field itself goes away, by a key or since something else is shown
 */
export function useTyped(shown: string, leave?: (text: string) => void) {
  const [text, setText] = useState(shown)
  const typing = useRef(false)
  const last = useRef({ text, leave })
  last.current = { text, leave }
  useEffect(
    () => () => {
      if (typing.current) last.current.leave?.(last.current.text)
    },
    [],
  )
  useEffect(() => {
    if (!typing.current) setText(shown)
  }, [shown])
  return {
    text,
    isTyping: useCallback(() => typing.current, []),
    type: useCallback((typed: string) => {
      typing.current = true
      setText(typed)
    }, []),
    /** What is typed has gone off. */
    sent: useCallback(() => void (typing.current = false), []),
    putBack: useCallback(() => {
      typing.current = false
      setText(shown)
    }, [shown]),
  }
}
