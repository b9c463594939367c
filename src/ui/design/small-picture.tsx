/** A small picture of a document or of one of its revisions; beside a name, so that it says nothing that is not said. */
interface SmallPictureProps {
  readonly document: string;
  readonly revision: number;
  /** Of just this revision, rather than as it was last built. */
  readonly isExact?: boolean;
  readonly className?: string;
}

export function SmallPicture({ document, revision, isExact = false, className = 'h-14 w-21' }: SmallPictureProps) {
  const address = isExact ? `/api/documents/${document}/revisions/${revision}/thumbnail` : `/api/documents/${document}/thumbnail?revision=${revision}`;
  // Made by the server, of a size that needs no fitting.
  // oxlint-disable-next-line nextjs/no-img-element
  return <img src={address} alt="" loading="lazy" width={84} height={56} className={`shrink-0 object-contain ${className}`} />;
}
