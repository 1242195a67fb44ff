"""In which order: lawful, with the fewest changeovers.

A *rig* is a station with what is set up there. Operations of one rig done one after the other are a *block*; the fewest blocks win, then the fewest
changes of thread, then the fewest walks between stations. Doing more of what can be done at a rig one stands at never harms, so a block does all of it,
and only the order of rigs is searched: best first (A*), with two bounds of how many blocks are left (rigs that something is left for, and the longest
chain of changing rigs). The search proves its answer, or says how near it is known to be.
"""

import heapq
import math
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Final

import networkx as nx

from omnipel.core.sewing.ruling.bench import Before

MOST_LOOKED_AT: Final = 1_500
"""After so many states only the most promising ones are gone on with, block by block."""
HALF: Final = 0.5
"""Half a place before another."""
WIDTH: Final = 24
"""So many of them."""

Cost = tuple[int, int, int]
"""Blocks, changes of thread, walks."""
State = tuple[int, int, int]
"""What is done, as a set of bits; the rig one stands at and the thread in the machine, by number."""


@dataclass(frozen=True, slots=True, order=True)
class Rig:
    """Where an operation is done and what the machine is set up with: two alike need no changeover between them."""

    station: str
    foot: str = ""
    needle: str = ""
    thread: int = 0
    stitch: str = ""


@dataclass(frozen=True)
class Ordered:
    """An order of work.

    Args:
        keys: of the operations.
        cost: its blocks, changes of thread, walks.
        least: no lawful order has fewer blocks than this.
        by_hand: whether a person arranged it.
    """

    keys: tuple[str, ...]
    cost: Cost
    least: int
    by_hand: bool = False

    @property
    def changeovers(self) -> int:
        """How often one changes to another rig."""
        return max(0, self.cost[0] - 1)

    @property
    def least_changeovers(self) -> int:
        """No lawful order has fewer."""
        return max(0, self.least - 1)

    @property
    def proven(self) -> bool:
        """Whether no lawful order has fewer changeovers."""
        return self.cost[0] <= self.least


class Orders:
    """All lawful orders of some operations.

    Args:
        rigs: the rig of each operation by its key, in the order in which they come to mind.
        before: what has to come before what.
    """

    def __init__(self, rigs: Mapping[str, Rig], before: Iterable[Before]) -> None:
        self.rigs = rigs
        self.keys = list(rigs)
        self.graph: nx.DiGraph[str] = nx.DiGraph()
        self.graph.add_nodes_from(rigs)
        for edge in before:
            if edge.first != edge.then and not self.graph.has_edge(edge.first, edge.then):
                self.graph.add_edge(edge.first, edge.then, before=edge)
        self.dropped = tuple(_untangled(self.graph))

    @cached_property
    def number(self) -> Mapping[str, int]:
        """The number of each operation."""
        return {key: i for i, key in enumerate(self.keys)}

    @cached_property
    def _needs(self) -> list[int]:
        """What has to be done before each operation, as a set of bits."""
        return [sum(1 << self.number[p] for p in self.graph.predecessors(key)) for key in self.keys]

    @cached_property
    def _colours(self) -> list[Rig]:
        return sorted(set(self.rigs.values()))

    @cached_property
    def _colour(self) -> list[int]:
        at = {rig: i for i, rig in enumerate(self._colours)}
        return [at[self.rigs[key]] for key in self.keys]

    @cached_property
    def _chain(self) -> list[int]:
        """At least so many blocks are needed for an operation and all that has to follow it."""
        chain = [1] * len(self.keys)
        for key in reversed(list(nx.topological_sort(self.graph))):
            i = self.number[key]
            for after in self.graph.successors(key):
                k = self.number[after]
                chain[i] = max(chain[i], chain[k] + (self._colour[k] != self._colour[i]))
        return chain

    @cached_property
    def _of_colour(self) -> list[int]:
        masks = [0] * len(self._colours)
        for i, colour in enumerate(self._colour):
            masks[colour] |= 1 << i
        return masks

    def _block(self, done: int, colour: int) -> int:
        """All that is done after a block at a rig."""
        left = self._of_colour[colour] & ~done
        grown = True
        while grown:
            grown = False
            rest = left
            while rest:
                bit = rest & -rest
                rest ^= bit
                if self._needs[bit.bit_length() - 1] & ~done == 0:
                    done |= bit
                    left ^= bit
                    grown = True
        return done

    def _left(self, done: int) -> int:
        """At least so many blocks are left."""
        left = self._every & ~done
        kinds = sum(1 for mask in self._of_colour if mask & left)
        longest, rest = 0, left
        while rest:
            bit = rest & -rest
            rest ^= bit
            longest = max(longest, self._chain[bit.bit_length() - 1])
        return max(kinds, longest)

    @cached_property
    def _every(self) -> int:
        return (1 << len(self.keys)) - 1

    def best(self) -> Ordered:
        """The order with the fewest changeovers, or, of many operations, one that is nearly as good."""
        if not self.keys:
            return Ordered((), (0, 0, 0), 0)
        blocks, least = self._searched()
        keys = [self.keys[i] for i in self._told(blocks)]
        return Ordered(tuple(keys), self.cost(keys), min(least, len(blocks)))

    def _searched(self) -> tuple[list[int], int]:
        """The rigs to go to one after the other, and how many blocks every lawful order has at least."""
        begin: State = (0, -1, -1)
        waiting: list[tuple[Cost, int, State]] = [((self._left(0), 0, 0), 0, begin)]
        came: dict[State, State] = {}
        met: dict[State, Cost] = {begin: (0, 0, 0)}
        tie, least = 0, 0
        for _ in range(MOST_LOOKED_AT):
            rated, _, here = heapq.heappop(waiting)
            least = max(least, rated[0])
            if here[0] == self._every:
                return self._way(came, here), least
            cost = met[here]
            if (cost[0] + self._left(here[0]), *cost[1:]) < rated:
                continue  # it was come to more cheaply since
            for there, paid in self._next(here, cost):
                if there not in met or paid < met[there]:
                    met[there], came[there] = paid, here
                    tie += 1
                    heapq.heappush(waiting, ((paid[0] + self._left(there[0]), *paid[1:]), tie, there))
        return self._thinned(self._narrowly()), least

    def _narrowly(self) -> list[int]:
        """Block by block, only the most promising ways gone on with."""
        begin: State = (0, -1, -1)
        came: dict[State, State] = {}
        here: dict[State, Cost] = {begin: (0, 0, 0)}
        while True:
            met: dict[State, Cost] = {}
            for state, cost in here.items():
                for there, paid in self._next(state, cost):
                    if there not in met or paid < met[there]:
                        met[there], came[there] = paid, state
            done = [state for state in met if state[0] == self._every]
            if done:
                return self._way(came, min(done, key=met.__getitem__))
            promising = sorted(met, key=lambda state: (self._left(state[0]), -state[0].bit_count(), met[state]))
            here = {state: met[state] for state in promising[:WIDTH]}

    def _thinned(self, blocks: list[int]) -> list[int]:
        """Without the blocks whose work can as well be done in others: no step by itself saves a changeover elsewhere."""
        k = 0
        while k < len(blocks):
            fewer, done = blocks[:k] + blocks[k + 1 :], 0
            for colour in fewer:
                done = self._block(done, colour)
            blocks, k = (fewer, 0) if done == self._every else (blocks, k + 1)
        return blocks

    def _next(self, state: State, cost: Cost) -> Iterator[tuple[State, Cost]]:
        """Every block that can come next, and what all costs then."""
        done, colour, thread = state
        for other, rig in enumerate(self._colours):
            after = self._block(done, other) if other != colour else done
            if after == done:
                continue
            own = self._threads[other]
            on = own if own >= 0 else thread
            changed = own >= 0 and thread >= 0 and own != thread
            walked = colour >= 0 and self._colours[colour].station != rig.station
            yield (after, other, on), (cost[0] + 1, cost[1] + changed, cost[2] + walked)

    @cached_property
    def _threads(self) -> list[int]:
        """Which needle and thread each rig has; -1 for none."""
        sewn = [(rig.needle, rig.thread) for rig in self._colours]
        kinds = sorted({pair for pair in sewn if pair != ("", 0)})
        return [kinds.index(pair) if pair != ("", 0) else -1 for pair in sewn]

    def _way(self, came: Mapping[State, State], end: State) -> list[int]:
        """The rigs on the way to a state."""
        blocks, at = [], end
        while at in came:
            blocks.append(at[1])
            at = came[at]
        return blocks[::-1]

    def _told(self, blocks: Sequence[int]) -> list[int]:
        """The operations block by block; within a block as they come to mind, as far as that is lawful."""
        done, told = 0, []
        for colour in blocks:
            whole = self._block(done, colour)
            while done != whole:
                rest = whole & ~done
                while rest:
                    bit = rest & -rest
                    rest ^= bit
                    i = bit.bit_length() - 1
                    if self._needs[i] & ~done == 0:
                        done |= bit
                        told.append(i)
                        break
        return told

    def cost(self, keys: Sequence[str]) -> Cost:
        """Blocks, changes of thread and walks of an order."""
        blocks = threads = walks = 0
        last, thread = None, None
        for key in keys:
            rig = self.rigs[key]
            blocks += rig != last
            walks += last is not None and rig.station != last.station
            if rig.needle or rig.thread:
                threads += thread is not None and thread != (rig.needle, rig.thread)
                thread = (rig.needle, rig.thread)
            last = rig
        return blocks, threads, walks

    def arranged(self, wanted: Sequence[str]) -> Ordered:
        """As near to what a person wanted as is lawful; what was not there then comes where it is best."""
        best = self.best()
        place = {key: float(i) for i, key in enumerate(key for key in wanted if key in self.rigs)}
        if not place:
            return best
        turn = {key: i for i, key in enumerate(best.keys)}
        last, step = -1.0, 1.0 / (len(best.keys) + 1.0)
        for key, at in self._come_by(best.keys, dict(place)).items():
            last = place[key] if key in place else min(last + step, at)
            place.setdefault(key, last)
        keys: list[str] = []
        needs = {key: set(self.graph.predecessors(key)) for key in self.keys}
        ready = [(place[key], turn[key], key) for key in self.keys if not needs[key]]
        heapq.heapify(ready)
        while ready:
            *_, key = heapq.heappop(ready)
            keys.append(key)
            for after in self.graph.successors(key):
                needs[after].discard(key)
                if not needs[after]:
                    heapq.heappush(ready, (place[after], turn[after], after))
        same = tuple(keys) == best.keys
        return Ordered(tuple(keys), self.cost(keys), best.least, by_hand=not same)

    def _come_by(self, keys: Sequence[str], place: Mapping[str, float]) -> dict[str, float]:
        """By operation before which place it has to have come, so that nothing that a person placed has to wait for it."""
        due = {key: place.get(key, math.inf) for key in keys}
        for key in reversed(list(nx.topological_sort(self.graph))):
            for after in self.graph.successors(key):
                due[key] = min(due[key], due[after] - HALF if after in place else due[after])
        return due

    def broken(self, keys: Sequence[str]) -> list[Before]:
        """What an order breaks."""
        at = {key: i for i, key in enumerate(keys)}
        return [data["before"] for first, then, data in self.graph.edges(data=True) if at[first] > at[then]]

    def moved(self, keys: Sequence[str], key: str, to: int) -> tuple[str, ...]:
        """An order with one operation at another place.

        Raises:
            NotLawful: something has to come before or after it.
        """
        rest = [other for other in keys if other != key]
        made = (*rest[:to], key, *rest[to:])
        broken = self.broken(made)
        if broken:
            raise NotLawful(broken[0])
        return made

    def room(self, keys: Sequence[str], key: str) -> tuple[int, int]:
        """The first and the last place that an operation may be moved to."""
        rest = [other for other in keys if other != key]
        at = {other: i for i, other in enumerate(rest)}
        low = max((at[p] + 1 for p in self.graph.predecessors(key)), default=0)
        high = min((at[s] for s in self.graph.successors(key)), default=len(rest))
        return low, high

    def ahead(self, key: str) -> list[Before]:
        """What has to come before an operation."""
        return [self.graph.edges[first, key]["before"] for first in self.graph.predecessors(key)]

    def missed(self, key: str, done: frozenset[str]) -> Before | None:
        """What was done although an operation had to come before it, and why: the first step on the way there. None where nothing was."""
        later = nx.descendants(self.graph, key) & done
        if not later:
            return None
        way = min((nx.shortest_path(self.graph, key, other) for other in sorted(later)), key=len)
        because: Before = self.graph.edges[way[0], way[1]]["before"]
        return Before(key, way[-1], because.why, because.rule)

    def after(self, key: str) -> list[Before]:
        """What has to come after an operation."""
        return [self.graph.edges[key, then]["before"] for then in self.graph.successors(key)]


class NotLawful(Exception):
    """A step cannot go there: what it would break."""

    def __init__(self, before: Before) -> None:
        self.before = before
        super().__init__(f"{before.first} before {before.then}")


def _untangled(graph: "nx.DiGraph[str]") -> Iterable[Before]:
    """Rules that contradict one another are left out until none do, those of the higher numbers first: a fault of ours, which tests look for."""
    while not nx.is_directed_acyclic_graph(graph):
        cycle = nx.find_cycle(graph)
        first, then = max(((a, b) for a, b, *_ in cycle), key=lambda pair: graph.edges[pair]["before"].rule)
        yield graph.edges[first, then]["before"]
        graph.remove_edge(first, then)
