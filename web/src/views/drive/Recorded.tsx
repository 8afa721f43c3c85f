import { useState } from 'react';
import { FilePicker } from '../../kit/overlay/FilePicker';
import { Box, Button, Heading, Row, Words } from '../../kit/primitives';
import { RefusedRows } from '../../kit/words/RefusedRows';
import { importRecording, removeRecording } from '../../model/api/client';
import { reasonOf } from '../../model/api/transport';
import type { Drive, RecordingImport } from '../../model/api/types';
import { readText } from '../../model/document/buildFile';
import { clock } from '../../model/document/drives';

/** The recording that a drive follows, and how to give it one from a file. */
export function Recorded({
  drive,
  onFollow,
}: {
  readonly drive: Drive;
  readonly onFollow: (recording: Drive['recording']) => void;
}) {
  const [found, setFound] = useState<RecordingImport | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const [sure, setSure] = useState(false);
  const { recording } = drive;

  async function letGo(id: string) {
    setTrouble(null);
    try {
      await removeRecording(id);
      onFollow(null);
    } catch (error) {
      setTrouble(`It was not let go: ${reasonOf(error as Error)}`);
    }
    setSure(false);
  }

  async function take(file: File) {
    setFound(null);
    setTrouble(null);
    setSure(false);
    try {
      const name = file.name.replace(/\.[^.]*$/, '').slice(0, 120) || 'Recording';
      const answer = await importRecording(await readText(file), name);
      setFound(answer);
      if (answer.recording) onFollow(answer.recording);
    } catch (error) {
      setTrouble(`Nothing was read: ${reasonOf(error as Error)}`);
    }
  }

  return (
    <Box as="section" aria-label="Recording">
      {recording && (
        <>
          <Heading>Recording</Heading>
          <Words display="block" fontWeight="firm">
            {recording.name}
          </Words>
          <Words display="block" tone="quiet" size="small">
            {recording.rows} rows over {clock(recording.lasts_s)}
          </Words>
        </>
      )}
      <Row gap="0" flexWrap="wrap">
        <FilePicker look="bare" label="Recorded drive" accept=".csv,text/csv" onFile={take}>
          {recording ? 'Another recording…' : 'Follow a recording (CSV)…'}
        </FilePicker>
        {recording && (
          <Button look="bare" onClick={() => onFollow(null)}>
            Back to legs
          </Button>
        )}
        {recording && (
          <Button look="bare" onClick={() => (sure ? void letGo(recording.id) : setSure(true))}>
            {sure ? 'For good, from all drives that follow it?' : 'Let it go'}
          </Button>
        )}
      </Row>
      {!recording && (
        <Words size="small" tone="quiet" display="block">
          Its first row names columns and units, such as time [s], speed [km/h], engine speed [rpm],
          altitude [m], ambient [°C].
        </Words>
      )}
      {trouble && (
        <Words role="alert" size="small" tone="fails" display="block">
          {trouble}
        </Words>
      )}
      {found && found.refused.length > 0 && (
        <Box role="alert" background="sunken" borderRadius="soft" padding="3">
          <Words display="block" fontWeight="firm">
            Nothing was read. Mend these and choose the file again:
          </Words>
          <RefusedRows label="Rows that cannot be read" rows={found.refused} />
        </Box>
      )}
      {found?.recording && found.ignored.length > 0 && (
        <Words role="status" size="small" tone="quiet" display="block">
          Columns that are not read: {found.ignored.join(', ')}
        </Words>
      )}
    </Box>
  );
}
