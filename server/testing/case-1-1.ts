import { z } from 'zod'

/**
 * The elements of a CASE 1.1 package that are written here, with the fields that its public data model gives each, required or not:
 * CFPackage of CFDocument, CFItem, CFAssociation and CFRubric. Own matters stand in `extensions` alone.
 */
const Uuid = z.string().regex(/^[0-9a-f]{8}-[0-9a-f]{4}-[1-5][0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}$/)
const Uri = z.url()
const DateTime = z.iso.datetime({ offset: true })
const extensions = z.record(z.string(), z.unknown()).optional()
const Link = z.strictObject({ title: z.string(), identifier: z.string(), uri: Uri, targetType: z.string().optional() })
const base = { identifier: Uuid, uri: Uri, lastChangeDateTime: DateTime, extensions }

const ASSOCIATIONS = [
  'isChildOf',
  'isPeerOf',
  'isPartOf',
  'exactMatchOf',
  'precedes',
  'isRelatedTo',
  'replacedBy',
  'exemplar',
  'hasSkillLevel',
  'isTranslationOf',
] as const

const Level = z.strictObject({
  ...base,
  description: z.string().optional(),
  quality: z.string().optional(),
  score: z.number().optional(),
  feedback: z.string().optional(),
  position: z.number().int().optional(),
  rubricCriterionId: Uuid.optional(),
})
const Criterion = z.strictObject({
  ...base,
  category: z.string().optional(),
  description: z.string().optional(),
  CFItemURI: Link.optional(),
  weight: z.number().optional(),
  position: z.number().int().optional(),
  rubricId: Uuid.optional(),
  CFRubricCriterionLevels: z.array(Level).optional(),
})

export const CasePackage = z.strictObject({
  CFDocument: z.strictObject({
    ...base,
    creator: z.string(),
    title: z.string(),
    caseVersion: z.literal('1.1').optional(),
    CFPackageURI: Link,
    description: z.string().optional(),
  }),
  CFItems: z.array(
    z.strictObject({
      ...base,
      fullStatement: z.string(),
      abbreviatedStatement: z.string().optional(),
      CFItemType: z.string().optional(),
      CFDocumentURI: Link.optional(),
    }),
  ),
  CFAssociations: z.array(
    z.strictObject({
      ...base,
      associationType: z.enum(ASSOCIATIONS),
      sequenceNumber: z.number().int().optional(),
      originNodeURI: Link,
      destinationNodeURI: Link,
      CFDocumentURI: Link.optional(),
    }),
  ),
  CFRubrics: z.array(
    z.strictObject({
      ...base,
      title: z.string().optional(),
      description: z.string().optional(),
      CFRubricCriteria: z.array(Criterion).optional(),
    }),
  ),
})
