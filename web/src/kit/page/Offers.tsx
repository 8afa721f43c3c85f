import { useId } from 'react';
import { Box, Button, Words } from '../primitives';

/** Things to choose from, a line each, with what each of them means. */
export function Offers<Offer extends { readonly name: string; readonly hint?: string }>({
  label,
  of,
  onTake,
}: {
  /** What they are, for whoever hears the page. */
  readonly label: string;
  readonly of: readonly Offer[];
  readonly onTake: (offer: Offer) => void;
}) {
  const id = useId();
  return (
    <Box as="ul" aria-label={label} width="100%">
      {of.map((offer, i) => (
        <Box
          as="li"
          key={offer.name}
          display="grid"
          gridTemplateColumns={{ base: 'minmax(0,1fr)', md: '168px minmax(0,1fr)' }}
          alignItems="center"
          columnGap="2"
        >
          <Button
            look="bare"
            textAlign="left"
            justifySelf="start"
            aria-describedby={offer.hint && `${id}-${i}`}
            onClick={() => onTake(offer)}
          >
            {offer.name}
          </Button>
          {offer.hint && (
            <Words
              id={`${id}-${i}`}
              size="small"
              tone="quiet"
              paddingInlineStart={{ base: '2', md: '0' }}
            >
              {offer.hint}
            </Words>
          )}
        </Box>
      ))}
    </Box>
  );
}
