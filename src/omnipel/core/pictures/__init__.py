"""Pictures as display lists: panels, sketch. Replayed on screen, in PDF and in SVG, so that paper and screen cannot differ."""
