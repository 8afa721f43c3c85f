import { lazy, Suspense } from 'react';
import { BrowserRouter, Route, Routes } from 'react-router';
import { useAppliedMode } from '../kit/theme/mode';
import { useCurrency } from './Currency';
import { Rooms } from './Rooms';
import { Unknown } from './Unknown';

const Home = lazy(() => import('../views/home/Home').then((m) => ({ default: m.Home })));
const Shelf = lazy(() => import('../views/shelf/Shelf').then((m) => ({ default: m.Shelf })));
const AnyCar = lazy(() => import('../views/cause/AnyCar').then((m) => ({ default: m.AnyCar })));
const Practice = lazy(() =>
  import('../views/cause/Practice').then((m) => ({ default: m.Practice })),
);
const RoadCard = lazy(() =>
  import('../views/cause/RoadCard').then((m) => ({ default: m.RoadCard })),
);
const Builds = lazy(() => import('./Builds').then((m) => ({ default: m.Builds })));

/** All addresses. What lies within a build is loaded once one is opened. */
export function App() {
  useAppliedMode();
  useCurrency();
  return (
    <BrowserRouter>
      <Suspense fallback={null}>
        <Routes>
          <Route element={<Rooms />}>
            <Route index element={<Home />} />
            <Route path="shelf" element={<Shelf />} />
            <Route path="cause" element={<AnyCar />} />
            <Route path="practice" element={<Practice />} />
            <Route path="road" element={<RoadCard />} />
            <Route
              path="*"
              element={
                <Unknown
                  what="Check the address, or begin at the list of builds."
                  to="/"
                  way="All builds"
                />
              }
            />
          </Route>
          <Route path="builds/*" element={<Builds />} />
        </Routes>
      </Suspense>
    </BrowserRouter>
  );
}
