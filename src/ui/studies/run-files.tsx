import { writeCsv, writeXlsx } from '@/formats/spreadsheet';
import { Button } from '../design/button';
import { saveFile } from '../design/save-file';

interface RunFilesProps {
  /** Without the ending. */
  readonly name: string;
  readonly cells: () => string[][];
  /** Saves a drawing of it, where there is one. */
  readonly onPicture?: (() => void) | undefined;
}

/** What was run, as files. */
export function RunFiles({ name, cells, onPicture }: RunFilesProps) {
  return (
    <span className="flex gap-1 text-walnut-soft">
      <Button tone="quiet" onClick={() => saveFile(new TextEncoder().encode(writeCsv(cells())), `${name}.csv`)}>
        CSV
      </Button>
      <Button tone="quiet" onClick={() => void writeXlsx(cells(), name, { hasNumbers: true }).then((bytes) => saveFile(bytes, `${name}.xlsx`))}>
        XLSX
      </Button>
      {onPicture && (
        <Button tone="quiet" onClick={onPicture}>
          PNG
        </Button>
      )}
    </span>
  );
}
