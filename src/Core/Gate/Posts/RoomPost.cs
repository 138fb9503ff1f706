using VelvetGate.Core.House;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Settings;

namespace VelvetGate.Core.Gating.Posts;

/// <summary>Fire kit in date, the right people in the house, eyewear that really covers the beam.</summary>
internal static class RoomPost
{
    public static PostReading Read(GateQuestion ask, GateFacts facts)
    {
        var post = new PostWriter(Post.Room, ask.Phase);
        var room = facts.Room;
        if (!room.FireKit.IsKnown || !room.OnDuty.IsKnown || !room.Eyewear.IsKnown)
        {
            post.Add(
                Codes.RoomUnknown,
                "The state of the room is not known.",
                remedy: Remedies.HouseLook.Says("Look again, or ask a steward.")
            );
            return post.Done("Not known");
        }
        if (room.Shut?.FirstOrDefault(s => s.Held.Overlaps(ask.Start, ask.End)) is { } shut)
            post.Add(
                Codes.RoomIncident,
                $"The room is shut after incident {shut.Number}, until it is aired and a steward says so.",
                remedy: Remedies.IncidentEnd.Says("A steward has the room aired, then ends the hold.")
            );
        if (room.FireKit.Value.Count == 0)
            post.Add(
                Codes.RoomKitOut,
                "No fire kit is recorded for this room.",
                remedy: Remedies.HouseKit.Says("A keeper records the fire kit.")
            );
        foreach (var kit in room.FireKit.Value.Where(k => k.InDateUntil is { } until && until < ask.End))
            post.Add(
                Codes.RoomKitOut,
                $"The {kit.Name} goes out of date {HouseDates.Day(kit.InDateUntil!.Value, facts.Rules)}.",
                remedy: Remedies.HouseKit.Says("Have it serviced, and record the new date.")
            );
        foreach (var kit in room.FireKit.Value.Where(k => k.Wrong is not null))
            post.Add(
                Codes.RoomKitOut,
                $"The {kit.Name} is {kit.Wrong}, found {HouseDates.Day(kit.WrongSince ?? facts.Now, facts.Rules)}.",
                remedy: Remedies.KitLook.Says("Put it right, then say so under Upkeep, Round.")
            );
        ReadSupervision(ask, facts, post);
        ReadAir(facts, post);
        ReadEyewear(ask, facts, post);
        return post.Done(
            ("fire kit in date", !post.Has(Codes.RoomKitOut)),
            (
                "a steward on duty",
                facts.Rules.Supervision == Supervision.StewardOnDuty && !post.Has(Codes.RoomNoSupervisor) && !post.Has(Codes.RoomRotaOpen)
            )
        );
    }

    private static void ReadSupervision(GateQuestion ask, GateFacts facts, PostWriter post)
    {
        switch (facts.Rules.Supervision)
        {
            case Supervision.StewardOnDuty when !Span.Cover(facts.Room.OnDuty.Value, ask.Start, ask.End):
                if (ask.End > facts.Room.RotaUntil)
                    post.Add(
                        Codes.RoomRotaOpen,
                        "The steward rota does not reach that far: a steward has to be on duty.",
                        remedy: Remedies.HouseRota.Says("A keeper or steward writes the rota that far.")
                    );
                else
                    post.Add(
                        Codes.RoomNoSupervisor,
                        "No steward is on duty for the whole time.",
                        remedy: Remedies.TimeOther.Says("Choose a time with a steward on duty.")
                    );
                break;
            case Supervision.StewardOnDuty when ask.Phase == Phase.AtMachine && facts.Room.Seen == false:
                post.Add(Codes.RoomNotSeen, "Whoever is on duty has not tapped in at any machine: see that a steward is really there.");
                break;
            case Supervision.AdultInRoom when !Span.Cover(facts.Training.SupervisorCertified, ask.Start, ask.End):
                post.Add(
                    Codes.RoomNoSupervisor,
                    "A named adult with a certificate has to be in the room throughout.",
                    remedy: Remedies.TrainingSupervisor.Says("Name a certified adult.")
                );
                break;
            case Supervision.SecondPersonInCall:
                post.Add(Codes.RoomSecondPerson, "A second person has to be within call throughout.");
                break;
        }
    }

    /// <summary>Filters blow back into the room, and remove no carbon monoxide.</summary>
    private static void ReadAir(GateFacts facts, PostWriter post)
    {
        if (facts.Machine.Spec.Extraction != Extraction.Filtered || facts.Room.Air is not { } air)
            return;
        var missing = !air.IsKnown
            ? "nobody has described the room’s fresh air and its carbon-monoxide alarm"
            : (air.Value.CoAlarm, air.Value.FreshAir) switch
            {
                (true, true) => null,
                (false, true) => "the room has no carbon-monoxide alarm",
                (true, false) => "nothing says how the room gets fresh air",
                _ => "the room has no carbon-monoxide alarm, and nothing says how it gets fresh air",
            };
        if (missing is not null)
            post.Add(
                Codes.RoomFreshAir,
                $"{facts.Machine.Spec.Name} blows filtered air back into the room, and {missing}.",
                remedy: Remedies.HouseRoom.Says("A keeper hangs an alarm and writes both on the form of the room.")
            );
    }

    private static void ReadEyewear(GateQuestion ask, GateFacts facts, PostWriter post)
    {
        var machine = facts.Machine.Spec;
        if (!machine.BeamCanReachPeople)
        {
            if (facts.Rules.EyewearAlways)
                post.Add(Codes.RoomWearEyewear, "This house asks for eyewear at every running machine.");
            return;
        }
        if (EyewearMath.RequiredOpticalDensity((double)machine.PowerW, machine.WavelengthNm) is not { } density)
        {
            post.Add(
                Codes.EyewearNotCovered,
                $"{machine.Name} runs as class {machine.LaserClass}, and which eyewear covers {machine.WavelengthNm} nm is not "
                    + "worked out here.",
                remedy: Remedies.MachineClose.Says(
                    "Close it and verify the interlock, or leave it off until a laser safety officer has worked it out."
                )
            );
            return;
        }
        var needed = (decimal)density;
        var fits = facts
            .Room.Eyewear.Value.Where(e =>
                e.Count > 0
                && e.DamageRated
                && e.MinNm <= machine.WavelengthNm
                && e.MaxNm >= machine.WavelengthNm
                && e.OpticalDensity >= needed
            )
            .ToList();
        var pairs = fits.Sum(e => e.Count);
        if (pairs > 0 && pairs < ask.People)
            post.Add(
                Codes.RoomEyewear,
                $"{ask.People} people are to be at {machine.Name}, and {(pairs == 1 ? "one pair" : $"{pairs} pairs")} of eyewear here "
                    + $"cover{(pairs == 1 ? "s" : "")} {machine.WavelengthNm} nm at OD {needed:0.0}.",
                remedy: Remedies.HouseEyewear.Says("Come with fewer, get more eyewear for this beam, or close the machine.")
            );
        else if (pairs == 0)
            post.Add(
                Codes.RoomEyewear,
                $"No eyewear here covers {machine.WavelengthNm} nm at OD {needed:0.0} with a damage rating.",
                remedy: Remedies.HouseEyewear.Says("Get eyewear for this beam, or close the machine.")
            );
        else
            post.Add(
                Codes.RoomWearEyewear,
                $"{machine.Name} runs as class {machine.LaserClass}: everyone in the room wears "
                    + $"{string.Join(" or ", fits.Select(e => e.Name).Distinct())}."
                    + (
                        machine.Station is { Pulsed: false }
                            ? ""
                            : " Worked out for average power only: not a full check for a pulsed beam."
                    )
            );
    }
}
