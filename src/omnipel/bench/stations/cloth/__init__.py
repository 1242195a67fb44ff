"""The Cloth station: how panels lie on their cloth, what is to be bought, what small change saves some of it."""
