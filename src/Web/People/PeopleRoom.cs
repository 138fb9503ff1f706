using VelvetGate.Store.Db;
using VelvetGate.Store.People;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.People;

/// <summary>What this room needs, and its ways in: people, accounts, roles, conduct and signing in.</summary>
public static class PeopleRoom
{
    public static IServiceCollection AddPeople(this IServiceCollection services) =>
        services
            .AddSingleton<IStewardTasks, PeopleTasks>()
            .AddSingleton<PeopleStore>()
            .AddSingleton<AccountStore>()
            .AddSingleton<InviteStore>()
            .AddSingleton<PersonalDataStore>()
            .AddSingleton<MentionStore>()
            .AddSingleton<ConductStore>()
            .AddSingleton<MessageStore>()
            .AddSingleton<OutgoingMail>()
            .AddSingleton<SignInGuardStore>()
            .AddSingleton<SignInGuard>()
            .AddSingleton<SecondFactorStore>()
            .AddSingleton<SecondFactors>()
            .AddSingleton<SessionStore>()
            .AddSingleton<SecurityLog>();

    public static void MapPeopleRoom(this IEndpointRouteBuilder app)
    {
        app.MapSignIn();
        app.MapSessions();
        app.MapSecondFactor();
        app.MapPeople();
        app.MapAccounts();
        app.MapMine();
        app.MapMessages();
        app.MapConduct();
    }
}
