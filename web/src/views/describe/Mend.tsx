/** A build whose stored document is none any more: what is wrong, each value to be set right, and the file as it is. */

import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { Labelled } from '../../kit/field/Labelled';
import { Brand } from '../../kit/page/Brand';
import { Box, Button, Input, Paragraph, Row, Title } from '../../kit/primitives';
import { saveBuild } from '../../model/api/client';
import { ProblemError } from '../../model/api/transport';
import type { Build, ProblemField, UnreadableProblem } from '../../model/api/types';
import { download } from '../../model/document/buildFile';
import { titleAt, valueAt, withValue } from '../../model/document/fields';
import { readNumber } from '../../model/units/parse';

/** What is typed, as a value of the document: a number, yes or no, or nothing where it reads like one. */
export function typed(text: string): unknown {
  const plain = text.trim();
  if (plain === '' || plain === 'null') return null;
  if (plain === 'true' || plain === 'false') return plain === 'true';
  const number = readNumber(plain);
  return Number.isFinite(number) ? number : plain;
}

const shown = (value: unknown) =>
  value === null || value === undefined
    ? ''
    : typeof value === 'object'
      ? JSON.stringify(value)
      : String(value);

export function Mend({
  id,
  problem,
  onMended,
}: {
  readonly id: string;
  readonly problem: UnreadableProblem;
  readonly onMended: () => void;
}) {
  const stored = problem.document as unknown as Build;
  const [texts, setTexts] = useState<Record<string, string>>({});
  const [key] = useState(() => crypto.randomUUID());
  const [refused, setRefused] = useState<readonly ProblemField[]>([]);
  const errors = refused.length > 0 ? refused : (problem.errors ?? []);
  const paths = [...new Set([...(problem.errors ?? []), ...refused].map((e) => e.path))];
  const save = useMutation({
    mutationFn: () => {
      const mended = Object.entries(texts).reduce(
        (build, [path, text]) => withValue(build, path, typed(text)),
        stored,
      );
      return saveBuild(
        id,
        problem.revision,
        mended,
        refused.length > 0 ? crypto.randomUUID() : key,
      );
    },
    onSuccess: onMended,
    onError: (error) => {
      if (error instanceof ProblemError) setRefused(error.problem.errors ?? []);
    },
  });
  return (
    <Box as="main" padding="8" maxWidth="760px">
      <Brand />
      <Title marginTop="4">This build cannot be read any more</Title>
      <Paragraph marginBlock="3">
        Some of its stored values are none that Ebbrin takes today. It is kept as it is. Set the
        values below right and save: that adds a revision on top.
      </Paragraph>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          save.mutate();
        }}
      >
        {paths.map((path) => (
          <Labelled
            key={path}
            label={titleAt(path)}
            wrong={errors.find((e) => e.path === path)?.message}
            help={path}
            marginBottom="4"
          >
            <Input
              width="260px"
              value={texts[path] ?? shown(valueAt(stored, path))}
              onChange={(event) => setTexts({ ...texts, [path]: event.target.value })}
            />
          </Labelled>
        ))}
        {save.isError && (
          <Paragraph role="alert" tone="fails" marginBottom="3">
            Not saved: {save.error.message} What you typed is still here.
          </Paragraph>
        )}
        <Row gap="2">
          <Button type="submit" look="main" disabled={save.isPending}>
            Save it mended
          </Button>
          <Button onClick={() => download(stored)}>Export it as it is</Button>
        </Row>
      </form>
    </Box>
  );
}
