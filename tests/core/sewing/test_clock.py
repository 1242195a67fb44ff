"""The clock, with a time that is made up."""

from hypothesis import given
from hypothesis import strategies as st
from tests.wild import tried

from omnipel.core.sewing.clock import IDLE, Clock


def test_it_runs_for_one_step_is_paused_and_goes_on() -> None:
    clock = Clock().begun("sew", 100.0)
    assert clock.minutes(220.0) == 2.0
    paused = clock.paused(220.0)
    assert not paused.runs
    assert paused.minutes(9_000.0) == 2.0
    again = paused.begun("sew", 9_000.0)
    assert again.minutes(9_060.0) == 3.0
    assert again.begun("sew", 9_060.0) is again
    assert again.begun("pin", 9_060.0).seconds(9_070.0) == 10.0


def test_time_in_which_nobody_did_anything_is_asked_about_and_can_be_left_out() -> None:
    clock = Clock().begun("sew", 0.0).touch(60.0)
    assert clock.away(60.0 + IDLE) == 0.0
    assert clock.away(60.0 + IDLE + 1.0) == IDLE + 1.0
    back = clock.left_out(2_000.0)
    assert back.seconds(2_000.0) == 60.0
    assert back.seconds(2_030.0) == 90.0
    assert clock.touch(2_000.0).seconds(2_000.0) == 2_000.0  # kept, where it was worked all the same
    assert clock.paused(60.0).away(5_000.0) == 0.0


@tried(100)
@given(st.lists(st.tuples(st.sampled_from(["pause", "begin", "touch", "leave out"]), st.floats(0.0, 5_000.0)), max_size=20))
def test_it_never_counts_more_than_has_gone_by(turns: list[tuple[str, float]]) -> None:
    now, clock = 0.0, Clock().begun("sew", 0.0)
    for turn, gone in turns:
        before, now = clock.seconds(now), now + gone
        assert before <= clock.seconds(now) <= now
        match turn:
            case "pause":
                clock = clock.paused(now)
            case "begin":
                clock = clock.begun("sew", now)
            case "touch":
                clock = clock.touch(now)
            case _:
                clock = clock.left_out(now)
    assert 0.0 <= clock.seconds(now) <= now
