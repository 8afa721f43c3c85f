import { useEffect } from 'react';
import { Way } from '../../kit/page/Way';
import { Paragraph, Title } from '../../kit/primitives';
import { Cause } from './Cause';

/** Finding a cause with no build at all: the tables of the trade speak alone. */
export function AnyCar() {
  useEffect(() => {
    document.title = 'Find the cause – Ebbrin';
  }, []);
  return (
    <>
      <Title textStyle="huge">Find the cause</Title>
      <Paragraph tone="quiet" marginBlock="2">
        Any car. Of one that is described as a build its own model speaks, too: open the build and
        go to Find the cause there. <Way to="/practice">Practise on a hidden car</Way>
      </Paragraph>
      <Cause build={null} buildId={null} variant={null} />
    </>
  );
}
