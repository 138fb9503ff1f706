using VelvetGate.Core.House;
using VelvetGate.Core.Run;

namespace VelvetGate.Core.Gating.Posts;

/// <summary>Fire kit in date, the right people in the house, eyewear that really covers the beam.</summary>
internal static class RoomPost
{
    public static PostReading Read(Ask ask, GateFacts facts)
    {
        var post = new PostWriter(Post.Room, ask.Phase);
        var room = facts.Room;
        if (!room.FireKit.IsKnown || !room.OnDuty.IsKnown || !room.Eyewear.IsKnown)
        {
            post.Add(Codes.RoomUnknown, "The state of the room is not known.", remedy: new("house.look", "Look again, or ask a steward."));
            return post.Done("Not known");
        }
        if (room.FireKit.Value.Count == 0)
            post.Add(Codes.RoomKitOut, "No fire kit is recorded for this room.", remedy: new("house.kit", "A keeper records the fire kit."));
        foreach (var kit in room.FireKit.Value.Where(k => k.InDateUntil is { } until && until < ask.End))
            post.Add(Codes.RoomKitOut, $"The {kit.Name} goes out of date {Say.Day(kit.InDateUntil!.Value, facts.Rules)}.", remedy: new("house.kit", "Have it serviced, and record the new date."));
        ReadSupervision(ask, facts, post);
        ReadEyewear(ask, facts, post);
        return post.Done("Fire kit in date");
    }

    private static void ReadSupervision(Ask ask, GateFacts facts, PostWriter post)
    {
        switch (facts.Rules.Supervision)
        {
            case Supervision.StewardOnDuty when !Span.Cover(facts.Room.OnDuty.Value, ask.Start, ask.End):
                if (ask.End > facts.Room.RotaUntil)
                    post.Add(Codes.RoomRotaOpen, "The steward rota is not written that far: a steward has to be on duty.", remedy: new("house.rota", "Wait for the rota."));
                else
                    post.Add(Codes.RoomNoSupervisor, "No steward is on duty for the whole time.", remedy: new("time.other", "Choose a time with a steward on duty."));
                break;
            case Supervision.AdultInRoom when !Span.Cover(facts.Training.SupervisorCertified, ask.Start, ask.End):
                post.Add(Codes.RoomNoSupervisor, "A named adult with a certificate has to be in the room throughout.", remedy: new("training.supervisor", "Name a certified adult."));
                break;
            case Supervision.SecondPersonInCall:
                post.Add(Codes.RoomSecondPerson, "A second person has to be within call throughout.");
                break;
        }
    }

    private static void ReadEyewear(Ask ask, GateFacts facts, PostWriter post)
    {
        var machine = facts.Machine.Spec;
        if (!machine.BeamCanReachPeople)
        {
            if (facts.Rules.EyewearAlways) post.Add(Codes.RoomWearEyewear, "This house asks for eyewear at every running machine.");
            return;
        }
        var needed = (decimal)EyewearMath.RequiredOpticalDensity((double)machine.PowerW, machine.WavelengthNm);
        var fit = facts.Room.Eyewear.Value.FirstOrDefault(e =>
            e.Count > 0 && e.DamageRated && e.MinNm <= machine.WavelengthNm && e.MaxNm >= machine.WavelengthNm && e.OpticalDensity >= needed);
        if (fit is null)
            post.Add(Codes.RoomEyewear, $"No eyewear here covers {machine.WavelengthNm} nm at OD {needed:0.0} with a damage rating.", remedy: new("house.eyewear", "Get eyewear for this beam, or close the machine."));
        else
            post.Add(Codes.RoomWearEyewear, $"{machine.Name} runs as class {machine.LaserClass}: everyone in the room wears {fit.Name}.{(machine.Kind == LaserKind.Fibre ? " Average power only, not a full check for a pulsed beam." : "")}");
    }
}
