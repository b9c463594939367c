'use client';
import { useEffect, useRef, useState } from 'react';
import { readMesh, type PictureReply } from '@/contract';
import type { Document } from '@/core/document';
import { colourOfBody } from '@/core/steps';
import { Viewport } from '../canvas3d/viewport';

/** The solids of the latest revision as a picture that can be printed: a canvas of the graphics card often cannot. */
export function ReportPicture({ picture, document }: { picture: PictureReply; document: Document }) {
  const host = useRef<HTMLDivElement>(null);
  const [address, setAddress] = useState<string>();
  useEffect(() => {
    // Drawn once, outside React, where nobody sees it.
    if (!host.current) return undefined;
    const viewport = new Viewport(host.current);
    viewport.show(
      picture.bodies.map(({ id, key, mesh }) => ({
        key,
        mesh: readMesh(mesh),
        look: 'solid',
        colour: colourOfBody(document, id),
      })),
    );
    const frame = requestAnimationFrame(() => setAddress(viewport.picture()));
    return () => {
      cancelAnimationFrame(frame);
      viewport.destroy();
    };
  }, [picture, document]);
  return (
    <>
      <div ref={host} aria-hidden="true" className="pointer-events-none fixed -left-[2000px] h-[420px] w-[840px]" />
      {/* Made here, of a size that needs no fitting. */}
      {/* oxlint-disable-next-line nextjs/no-img-element */}
      {address !== undefined && <img src={address} alt={`${document.name} as of its latest revision`} className="mx-auto h-[210px] w-[420px] object-contain" />}
    </>
  );
}
