"""Operations derived from what a cover is made of, each by what asks for it."""
