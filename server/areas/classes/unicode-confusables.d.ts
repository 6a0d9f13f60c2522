declare module 'unicode-confusables' {
  const confusables: { rectifyConfusion: (text: string) => string }
  export default confusables
}
