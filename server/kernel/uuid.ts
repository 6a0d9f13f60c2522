import { v5 } from 'uuid'

const NAMESPACE = '6a0f5d4e-2f1b-5c53-9c0e-5a1d7c3b9e21'

/** A UUID that is always the same for a name (RFC 9562, version 5). */
export const uuidOf = (name: string): string => v5(name, NAMESPACE)
