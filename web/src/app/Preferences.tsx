import { Row, Select } from '../kit/primitives';
import { useMode } from '../kit/theme/mode';
import { UnitSetSelect } from './UnitsDialog';

/** Units and light or dark, on every page. */
export function Preferences() {
  const mode = useMode();
  return (
    <Row gap="2">
      <UnitSetSelect />
      <Select
        aria-label="Light or dark"
        width="auto"
        value={mode.mode}
        onChange={(event) => mode.choose(event.target.value as 'system' | 'light' | 'dark')}
      >
        <option value="system">auto</option>
        <option value="light">light</option>
        <option value="dark">dark</option>
      </Select>
    </Row>
  );
}
