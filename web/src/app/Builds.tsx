import { Route, Routes } from 'react-router';
import { openAhead } from '../model/save/openedAhead';
import { places } from './manifest';
import { OpenBuild, ToVariant } from './OpenBuild';
import { OpenedBuild } from './OpenedBuild';
import { Rooms } from './Rooms';
import { Unknown } from './Unknown';

/** Done once the answer of the first address is on its way. */
export const asked = openAhead(location.pathname);

/** Everything below /builds: a build, its variant, and the place within. */
export function Builds() {
  return (
    <Routes>
      <Route path=":id" element={<OpenBuild />}>
        <Route index element={<ToVariant />} />
        <Route path=":variant" element={<OpenedBuild />}>
          {places.map(({ path, Page }) => (
            <Route
              key={path}
              {...(path === '' ? { index: true as const } : { path })}
              element={<Page />}
            />
          ))}
          <Route path="*" element={null} />
        </Route>
      </Route>
      <Route element={<Rooms />}>
        <Route
          path="*"
          element={
            <Unknown what="An address below /builds names a build." to="/" way="All builds" />
          }
        />
      </Route>
    </Routes>
  );
}
