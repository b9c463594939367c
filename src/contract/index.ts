export { postEditsSchema, type Envelope, type LoggedEdit, type PostEdits } from './envelope';
export {
  catchUpSchema,
  saveRevisionSchema,
  type CatchUpPreviewReply,
  type CatchUpReply,
  type DocumentCard,
  type DocumentReply,
  type EditsReply,
  type ErrorCode,
  type ErrorReply,
  type LiveEvent,
  type PlannedDocumentReply,
  type ProjectCard,
  type ProjectReply,
  type RevisionCard,
  type SavedBody,
  type SaveRevisionReply,
} from './replies';
