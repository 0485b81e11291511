import { useEffect, useRef, useState } from 'react';
import * as pdfjs from 'pdfjs-dist';
import workerAddress from 'pdfjs-dist/build/pdf.worker.min.mjs?url';

pdfjs.GlobalWorkerOptions.workerSrc = workerAddress;
const MOST_PAGES = 20;

/** A PDF's pages drawn on canvases, one after another. */
export default function PdfPreview({ address }: { address: string }) {
  const host = useRef<HTMLDivElement>(null);
  const [note, setNote] = useState('');
  useEffect(() => {
    let gone = false;
    const task = pdfjs.getDocument({ url: address, isEvalSupported: false, disableAutoFetch: true });
    void (async () => {
      try {
        const document_ = await task.promise;
        for (let n = 1; n <= Math.min(document_.numPages, MOST_PAGES) && !gone; n++) {
          const page = await document_.getPage(n);
          const viewport = page.getViewport({ scale: 1.3 });
          const canvas = document.createElement('canvas');
          canvas.width = viewport.width;
          canvas.height = viewport.height;
          canvas.setAttribute('aria-label', `Page ${n} of ${document_.numPages}`);
          canvas.setAttribute('role', 'img');
          if (gone) return;
          host.current?.append(canvas);
          await page.render({ canvas, viewport }).promise;
        }
        if (document_.numPages > MOST_PAGES) setNote(`The first ${MOST_PAGES} of ${document_.numPages} pages.`);
      } catch (error) {
        if (!gone) setNote(`This PDF cannot be shown: ${(error as Error).message}`);
      }
    })();
    const node = host.current;
    return () => {
      gone = true;
      void task.destroy();
      node?.replaceChildren();
    };
  }, [address]);
  return (
    <div className="preview-pdf">
      {note && <p className="preview-note">{note}</p>}
      <div ref={host} />
    </div>
  );
}
