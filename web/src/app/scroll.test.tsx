import { cleanup, render } from '@testing-library/react';
import { NavigationType, Router, useLocation } from 'react-router';
import { afterEach, expect, test } from 'vitest';
import { useScroll } from './useScroll';

afterEach(cleanup);

function View() {
  const { pathname } = useLocation();
  useScroll(pathname);
  return <main id="main">{pathname}</main>;
}

/** Draws one step of a way after the other, each as it is arrived at. */
function walking() {
  const unused = () => {};
  const navigator = { createHref: String, go: unused, push: unused, replace: unused };
  const at = (pathname: string, key: string, navigationType = NavigationType.Push) => (
    <Router location={{ pathname, key }} navigationType={navigationType} navigator={navigator}>
      <View />
    </Router>
  );
  const { container, rerender } = render(at('/loop', 'first'));
  const main = container.querySelector('main') as HTMLElement;
  return {
    main,
    to: (pathname: string, key: string) => rerender(at(pathname, key)),
    back: (pathname: string, key: string) => rerender(at(pathname, key, NavigationType.Pop)),
    scroll: (top: number) => {
      main.scrollTop = top;
      main.dispatchEvent(new Event('scroll'));
    },
  };
}

test('a view begins at its top, and going back leads to where it was left', () => {
  const { main, to, back, scroll } = walking();
  scroll(200);
  to('/drive', 'second');
  expect(main.scrollTop).toBe(0);
  scroll(70);
  back('/loop', 'first');
  expect(main.scrollTop).toBe(200);
  back('/drive', 'second');
  expect(main.scrollTop).toBe(70);
});

test('a step that was gone from before it was drawn was left where its view was', () => {
  const { main, to, back, scroll } = walking();
  scroll(200);
  to('/drive', 'third');
  back('/loop', 'second, another case in the place of the first');
  expect(main.scrollTop).toBe(200);
});
