import { type ComponentType, lazy, Suspense, useState } from 'react';
import { BrowserRouter, Route, Routes } from 'react-router';
import { ErrorBoundary } from '../kit/page/ErrorBoundary';
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

let there: ComponentType | null = null;

/** Brings in what is shown below /builds. */
export async function bringBuilds() {
  const { Builds, asked } = await import('./Builds');
  await asked;
  there = Builds;
  return { default: there };
}
const BuildsLater = lazy(bringBuilds);

/** Where it is there already nothing is shown in its place first: React would leave that for three tenths of a second. */
function Builds() {
  const [Shown] = useState<ComponentType>(() => there ?? BuildsLater);
  return (
    <ErrorBoundary at="builds">
      <Shown />
    </ErrorBoundary>
  );
}

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
